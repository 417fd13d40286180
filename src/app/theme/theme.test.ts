import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { system } from './index.ts';

const sources = readdirSync('src/app', { recursive: true })
  .map(String)
  .filter(name => name.endsWith('.tsx'))
  .map(name => readFileSync(join('src/app', name), 'utf8'));

/** The kit's parts with a look of their own, by the name they are imported by, and what that look is called. */
const LOOKS: Record<string, readonly string[]> = {
  Button: ['button', 'spinner'],
  Checkbox: ['checkbox', 'checkmark'],
  Dialog: ['dialog'],
  Field: ['field'],
  Heading: ['heading'],
  Input: ['input'],
  Link: ['link'],
  List: ['list'],
  NativeSelect: ['nativeSelect'],
  Progress: ['progress'],
  RadioGroup: ['radioGroup', 'radiomark'],
  Spinner: ['spinner'],
  Table: ['table'],
  Textarea: ['textarea'],
};
/** Parts without one. */
const PLAIN = [
  'Box',
  'chakra',
  'ChakraProvider',
  'Flex',
  'Grid',
  'HStack',
  'mergeProps',
  'Portal',
  'Text',
  'useBreakpointValue',
];

describe('the look of the parts', () => {
  const used = new Set(
    sources.flatMap(source =>
      [...source.matchAll(/import \{([^}]*)\} from '(?:@chakra-ui\/react|[./\w]*\/kit\.tsx)'/g)].flatMap(
        ([, names]) =>
          names
            .split(',')
            .map(name => name.trim())
            .filter(name => name && !name.startsWith('type ')),
      ),
    ),
  );
  it.each([...used].filter(name => !PLAIN.includes(name)))('%s has one', name => {
    expect(LOOKS[name], `what ${name} is drawn with is not said`).toBeDefined();
    for (const look of LOOKS[name])
      expect(system.isRecipe(look) || system.isSlotRecipe(look), look).toBe(true);
  });
});

describe('the colours', () => {
  const PROPS =
    /\b(?:color|bg|background|borderColor|border\w+Color|fill|stroke|outlineColor)="([a-z][\w.]*)"/gi;
  const CSS = ['none', 'transparent', 'currentColor', 'inherit'];
  const named = new Set(
    sources
      .flatMap(source => [...source.matchAll(PROPS)].map(([, name]) => name))
      .filter(n => !CSS.includes(n)),
  );
  it('of every page are there', () => {
    expect(named.size).toBeGreaterThan(10);
    const unknown = [...named].filter(name => !system.token(`colors.${name}`));
    expect(unknown).toEqual([]);
  });

  it('of every palette that is named are whole', () => {
    const palettes = new Set(
      sources.flatMap(source => [...source.matchAll(/colorPalette="(\w+)"/g)].map(([, name]) => name)),
    );
    expect([...palettes].sort()).toEqual(expect.arrayContaining(['buoy', 'tide']));
    for (const name of [...palettes, 'gray'])
      for (const shade of ['solid', 'contrast', 'fg', 'muted', 'subtle', 'emphasized', 'focusRing'])
        expect(system.token(`colors.${name}.${shade}`), `${name}.${shade}`).toBeTruthy();
  });

  it('that a rule names are there: nothing points at what was left out', () => {
    const css = JSON.stringify([system.getTokenCss(), system.getGlobalCss()]);
    expect(css).not.toMatch(/\{colors\.[\w.]+\}/);
  });
});
