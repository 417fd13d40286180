import {
  type Box as KitBox,
  type Button as KitButton,
  type Flex as KitFlex,
  type Grid as KitGrid,
  type Heading as KitHeading,
  type HStack as KitHStack,
  type Text as KitText,
  mergeProps,
  Spinner,
} from '@chakra-ui/react';
import { css, __unsafe_useEmotionCache as useStyleSheet } from '@emotion/react';
import { insertStyles } from '@emotion/utils';
import {
  Children,
  createElement,
  type ElementType,
  isValidElement,
  type ReactElement,
  type ReactNode,
} from 'react';
import { system } from '../theme/index.ts';

/** What a property is for: the element, the look, a variant of the part's recipe, or a shorter name for a property of the look. */
type Purpose = 'element' | 'look' | 'variant' | { readonly look: string };

interface Making {
  /** The recipe of the theme it is drawn by. */
  readonly recipe?: string;
  /** How it looks where nothing else is said. */
  readonly usual?: Readonly<Record<string, unknown>>;
  /** Shorter names of properties of the look. */
  readonly short?: Readonly<Record<string, string>>;
}

type Props = Readonly<Record<string, unknown>>;
type Look = Parameters<typeof system.css>[number];

/** How one part is made, with what was worked out of it so far. */
interface Made {
  readonly tag: ElementType;
  readonly drawn?: ReturnType<typeof system.getRecipeFn>;
  readonly usual: Look;
  readonly purposes: Map<string, Purpose>;
  /** The class of a look, by all that was said of it. */
  readonly classes: Map<string, ReturnType<typeof css>>;
}

function purposeOf({ drawn, purposes }: Made, name: string): Purpose {
  const known = purposes.get(name);
  if (known) return known;
  const isVariant = drawn?.variantKeys.some((key: string) => key === name);
  const purpose = isVariant ? 'variant' : system.isValidProperty(name) ? 'look' : 'element';
  purposes.set(name, purpose);
  return purpose;
}

/** An element with the class of all that its properties say of its look. */
function useDrawn(made: Made, { as, asChild, children, className, ...props }: Props): ReactElement {
  const sheet = useStyleSheet()!;
  const element: Record<string, unknown> = {};
  const look: Record<string, unknown> = {};
  const variant: Record<string, unknown> = {};
  let key = '';
  for (const name in props) {
    const value = props[name];
    const purpose = purposeOf(made, name);
    if (purpose === 'element') element[name] = value;
    else if (value !== undefined && value !== null) {
      if (purpose === 'variant') variant[name] = value;
      else look[typeof purpose === 'string' ? name : purpose.look] = value;
      key += `${name}:${typeof value === 'object' ? JSON.stringify(value) : value};`;
    }
  }
  let style = made.classes.get(key);
  if (!style) {
    const { css: more, ...said } = look;
    const asked = [more].flat().filter(part => part && typeof part === 'object') as Look[];
    style = css(system.css(made.drawn?.(variant) ?? {}, made.usual, ...asked, said as Look));
    made.classes.set(key, style);
  }
  insertStyles(sheet, style, true);
  const own = style.styles ? `${sheet.key}-${style.name}` : undefined;
  element.className = own && className ? `${own} ${className}` : (own ?? className);
  if (!asChild) return createElement((as as ElementType) ?? made.tag, element, children as ReactNode);
  const child = Children.toArray(children as ReactNode).find(isValidElement<Props>);
  if (!child) throw new Error('There is nothing to be drawn as this part.');
  return createElement(child.type, mergeProps(element, child.props));
}

/**
 * A part of the kit's that is drawn often. The kit works the look of each part out whenever it is drawn: two thirds of
 * the time of a press at the bench. Here it is worked out once for all that look alike, by the kit's own means, and
 * becomes one class; what is left of a drawing is an element.
 */
function partOf(tag: ElementType, { recipe, usual = {}, short = {} }: Making = {}) {
  const made: Made = {
    ...{ tag, usual: usual as Look, classes: new Map() },
    drawn: recipe === undefined ? undefined : system.getRecipeFn(recipe),
    purposes: new Map(Object.entries(short).map(([name, look]) => [name, { look }])),
  };
  return (props: Props) => useDrawn(made, props);
}

const IN_A_ROW = {
  align: 'alignItems',
  justify: 'justifyContent',
  direction: 'flexDirection',
  wrap: 'flexWrap',
};

export const Box = partOf('div') as unknown as typeof KitBox;
export const Text = partOf('p') as unknown as typeof KitText;
export const Heading = partOf('h2', { recipe: 'heading' }) as unknown as typeof KitHeading;
export const Flex = partOf('div', {
  usual: { display: 'flex' },
  short: { ...IN_A_ROW, basis: 'flexBasis', grow: 'flexGrow', shrink: 'flexShrink' },
}) as unknown as typeof KitFlex;
export const HStack = partOf('div', {
  usual: { display: 'flex', flexDirection: 'row', alignItems: 'center', gap: '0.5rem' },
  short: IN_A_ROW,
}) as unknown as typeof KitHStack;
export const Grid = partOf('div', {
  usual: { display: 'grid' },
  short: {
    ...{ templateAreas: 'gridTemplateAreas', autoColumns: 'gridAutoColumns', column: 'gridColumn' },
    ...{ row: 'gridRow', autoFlow: 'gridAutoFlow', autoRows: 'gridAutoRows' },
    ...{ templateRows: 'gridTemplateRows', templateColumns: 'gridTemplateColumns' },
  },
}) as unknown as typeof KitGrid;
const Pressed = partOf('button', { recipe: 'button' }) as unknown as typeof KitButton;

/** A button, or what is to look like one; while it is at work it cannot be pressed and says so. */
export const Button = (({ loading, loadingText, children, disabled, ...props }) => {
  if (props.asChild) return <Pressed {...props}>{children}</Pressed>;
  return (
    <Pressed
      type="button"
      {...props}
      disabled={loading || disabled}
      data-loading={loading ? '' : undefined}
      aria-busy={loading || undefined}
    >
      {loading ? <AtWork text={loadingText}>{children}</AtWork> : children}
    </Pressed>
  );
}) as typeof KitButton;

function AtWork({ text, children }: { readonly text?: ReactNode; readonly children?: ReactNode }) {
  const spinner = <Spinner size="inherit" borderWidth="0.125em" color="inherit" />;
  if (text)
    return (
      <>
        {spinner}
        {text}
      </>
    );
  return (
    <>
      <Box as="span" position="absolute" display="inline-flex">
        {spinner}
      </Box>
      <Box as="span" visibility="hidden" display="contents">
        {children}
      </Box>
    </>
  );
}
