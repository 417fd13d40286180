import { createSystem, defaultBaseConfig, defineConfig } from '@chakra-ui/react';
import {
  animationStyles,
  breakpoints,
  buttonRecipe,
  checkboxSlotRecipe,
  checkmarkRecipe,
  cssVarsPrefix,
  cssVarsRoot,
  dialogSlotRecipe,
  fieldSlotRecipe,
  globalCss,
  headingRecipe,
  inputRecipe,
  keyframes,
  layerStyles,
  linkRecipe,
  listSlotRecipe,
  nativeSelectSlotRecipe,
  numberInputSlotRecipe,
  progressSlotRecipe,
  radioGroupSlotRecipe,
  radiomarkRecipe,
  semanticTokens,
  spinnerRecipe,
  tableSlotRecipe,
  textareaRecipe,
  textStyles,
  tokens,
} from '@chakra-ui/react/theme';

/** A group of tokens without those that nothing here is drawn with: each costs every page its share of the start. */
const without = <T extends object>(group: T, ...names: string[]): T =>
  Object.fromEntries(Object.entries(group).filter(([name]) => !names.includes(name))) as T;
const only = <T extends object>(group: T, ...names: string[]): T =>
  Object.fromEntries(Object.entries(group).filter(([name]) => names.includes(name))) as T;

const UNSAID = ['warning', 'success', 'info'];
const { bg, fg, border, gray, red } = semanticTokens.colors;
/** Of the kit’s colours those that its parts here rest on; all that is seen by day and by lamp is our own, below. */
const colours = {
  tokens: only(tokens.colors, 'transparent', 'current', 'black', 'white', 'gray', 'red'),
  semantic: {
    ...{ bg: without(bg, ...UNSAID), fg: without(fg, ...UNSAID), border: without(border, ...UNSAID) },
    ...{ gray, red },
  },
};

/** The kit’s own look of the parts that are used, and of no other. */
const parts = defineConfig({
  preflight: true,
  cssVarsPrefix,
  cssVarsRoot,
  globalCss,
  theme: {
    breakpoints,
    keyframes,
    tokens: { ...without(tokens, 'aspectRatios', 'blurs'), colors: colours.tokens },
    semanticTokens: { ...semanticTokens, colors: colours.semantic },
    textStyles,
    layerStyles,
    animationStyles,
    recipes: {
      button: buttonRecipe,
      checkmark: checkmarkRecipe,
      heading: headingRecipe,
      input: inputRecipe,
      link: linkRecipe,
      radiomark: radiomarkRecipe,
      spinner: spinnerRecipe,
      textarea: textareaRecipe,
    },
    slotRecipes: {
      checkbox: checkboxSlotRecipe,
      dialog: dialogSlotRecipe,
      field: fieldSlotRecipe,
      list: listSlotRecipe,
      nativeSelect: nativeSelectSlotRecipe,
      numberInput: numberInputSlotRecipe,
      progress: progressSlotRecipe,
      radioGroup: radioGroupSlotRecipe,
      table: tableSlotRecipe,
    },
  },
});

const pair = (light: string, dark: string) => ({ value: { _light: light, _dark: dark } });

/** Wet Test's own tokens: a boat shed in daylight and by lamp. Ink on pale lichen, buoy orange for what needs hands. */
const config = defineConfig({
  theme: {
    recipes: {
      button: { variants: { variant: { outline: { borderColor: 'border.emphasized' } } } },
      input: { variants: { variant: { outline: { borderColor: 'border.emphasized', bg: 'bg.panel' } } } },
      textarea: { variants: { variant: { outline: { borderColor: 'border.emphasized', bg: 'bg.panel' } } } },
    },
    slotRecipes: {
      numberInput: {
        slots: ['root', 'control', 'input', 'incrementTrigger', 'decrementTrigger'],
        variants: { variant: { outline: { input: { borderColor: 'border.emphasized', bg: 'bg.panel' } } } },
      },
      nativeSelect: {
        slots: ['root', 'field', 'indicator'],
        variants: { variant: { outline: { field: { borderColor: 'border.emphasized', bg: 'bg.panel' } } } },
      },
    },
    tokens: {
      fonts: {
        heading: { value: "'Bricolage Grotesque Variable', system-ui, sans-serif" },
        body: { value: "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif" },
      },
      radii: { sm: { value: '2px' }, md: { value: '3px' }, lg: { value: '4px' } },
    },
    semanticTokens: {
      colors: {
        bg: {
          DEFAULT: pair('#f1f3ed', '#101715'),
          subtle: pair('#e8ebe3', '#18211e'),
          muted: pair('#dde2d8', '#202b28'),
          panel: pair('#fafbf7', '#161e1c'),
          emphasized: pair('#d3d9ce', '#2b3834'),
        },
        fg: {
          DEFAULT: pair('#14201d', '#eef2ec'),
          muted: pair('#4a5853', '#b2beb8'),
          subtle: pair('#4a5853', '#b2beb8'),
        },
        border: {
          DEFAULT: pair('#b9c2b8', '#3b4a45'),
          emphasized: pair('#6d7b75', '#8fa099'),
          muted: pair('#d3d9ce', '#2b3834'),
        },
        gray: {
          solid: pair('#14201d', '#eef2ec'),
          contrast: pair('#ffffff', '#101715'),
          fg: pair('#14201d', '#eef2ec'),
          muted: pair('#6d7b75', '#8fa099'),
          subtle: pair('#dde2d8', '#202b28'),
          emphasized: pair('#b9c2b8', '#3b4a45'),
          focusRing: pair('#0b5a66', '#8adbe4'),
        },
        buoy: {
          solid: pair('#b23a0e', '#ff9468'),
          contrast: pair('#ffffff', '#1c0d06'),
          fg: pair('#a03109', '#ff9f77'),
          muted: pair('#f6dccf', '#4a2414'),
          subtle: pair('#f9e8df', '#33190e'),
          emphasized: pair('#8f2d08', '#ffb394'),
          focusRing: pair('#0b5a66', '#8adbe4'),
        },
        tide: {
          solid: pair('#0b5a66', '#7fd3dd'),
          contrast: pair('#ffffff', '#06191c'),
          fg: pair('#0b5a66', '#8adbe4'),
          muted: pair('#cfe4e4', '#143a40'),
          subtle: pair('#e0edec', '#10292d'),
          emphasized: pair('#08454f', '#a8e5ec'),
          focusRing: pair('#0b5a66', '#8adbe4'),
        },
        good: { fg: pair('#22622f', '#8fd69b') },
        warn: { fg: pair('#7a4b00', '#f0c067'), subtle: pair('#f7ecd2', '#33270e') },
      },
    },
  },
  globalCss: {
    html: { colorScheme: 'light dark' },
    body: {
      background: 'bg',
      color: 'fg',
      fontSize: '17px',
      lineHeight: '1.45',
      fontVariantNumeric: 'tabular-nums',
    },
    'h1,h2,h3': { fontFamily: 'heading', letterSpacing: '-0.01em', lineHeight: '1.15', textWrap: 'balance' },
    ':focus-visible': { outline: '3px solid {colors.tide.solid}', outlineOffset: '2px' },
    '*, *::before, *::after': {
      _motionReduce: { transition: 'none !important', animation: 'none !important' },
    },
  },
});

export const system = createSystem(defaultBaseConfig, parts, config);
