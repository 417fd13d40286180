// @vitest-environment happy-dom
import * as kit from '@chakra-ui/react';
import { ChakraProvider } from '@chakra-ui/react';
import { fireEvent, render } from '@testing-library/react';
import { type ComponentType, createElement, type ReactElement } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { system } from '../theme/index.ts';
import { Box, Button, Flex, Grid, Heading, HStack, Text } from './kit.tsx';

const shown = (part: ReactElement) =>
  render(<ChakraProvider value={system}>{part}</ChakraProvider>).container.firstElementChild!;

/** The class names that say how a part looks: each is a digest of all its rules. */
const looks = (Part: ComponentType<never>, props: object) =>
  [...shown(createElement(Part as ComponentType<object>, props)).classList].filter(name =>
    name.startsWith('css-'),
  );

type Part = ComponentType<never>;
type Case = readonly [string, ComponentType<never>, ComponentType<never>, object];
const of = (name: string, ours: unknown, theirs: unknown, ...props: object[]): Case[] =>
  props.map(p => [
    `${name} ${JSON.stringify(p)}`,
    ours as ComponentType<never>,
    theirs as ComponentType<never>,
    p,
  ]);

describe('the parts that are drawn often look as the kit’s own', () => {
  it.each([
    ...of('Box', Box, kit.Box, {}, { p: '4', px: { base: '2', md: '6' }, color: 'fg.muted' }),
    ...of('Box', Box, kit.Box, { css: { '& .patch': { stroke: 'red' } }, _hover: { bg: 'bg.subtle' } }),
    ...of('Box', Box, kit.Box, { css: [{ color: 'red' }, undefined, { m: '1' }], color: 'fg' }),
    ...of('Box', Box, kit.Box, { mt: undefined, display: { base: 'none', md: 'block' }, lineHeight: 1.2 }),
    ...of('Text', Text, kit.Text, {}, { fontSize: 'lg', truncate: true, fontWeight: '700' }),
    ...of('Heading', Heading, kit.Heading, {}, { size: 'lg', mb: '1' }, { size: { base: 'lg', md: '3xl' } }),
    ...of(
      'Flex',
      Flex,
      kit.Flex,
      {},
      { direction: 'column', align: 'center', justify: 'space-between', wrap: 'wrap' },
    ),
    ...of('Flex', Flex, kit.Flex, { basis: '10rem', grow: 1, shrink: 0 }),
    ...of('Grid', Grid, kit.Grid, {}, { templateColumns: { base: '1fr', lg: '1fr 2fr' }, gap: '4' }),
    ...of('Button', Button, kit.Button, {}, { variant: 'outline', size: 'sm' }),
    ...of('Button', Button, kit.Button, { colorPalette: 'buoy', variant: 'ghost', minH: '44px', w: 'full' }),
  ])('%s', (_, ours, theirs, props) => {
    const mine = looks(ours, props);
    expect(mine).toEqual(looks(theirs, props));
    // Once more, from what was worked out.
    expect(looks(ours, props)).toEqual(mine);
  });

  it('a row is one, whatever the order its rules are said in', () => {
    const rules = (Part: Part, props: object) => {
      const style = getComputedStyle(shown(createElement(Part as ComponentType<object>, props)));
      return [style.display, style.flexDirection, style.alignItems, style.gap, style.justifyContent];
    };
    for (const props of [{}, { gap: '4', align: 'start' }, { justify: 'space-between' }])
      expect(rules(HStack as never, props)).toEqual(rules(kit.HStack as never, props));
  });

  it('two that look otherwise have other classes', () => {
    const one = looks(Box as never, { p: '1' });
    expect(looks(Box as never, { p: '2' })).not.toEqual(one);
    expect(looks(Box as never, { pt: '1' })).not.toEqual(one);
    expect(looks(Heading as never, { size: 'sm' })).not.toEqual(looks(Heading as never, { size: 'lg' }));
  });
});

describe('a part', () => {
  it('hands on what is not of its look, and keeps a class of one’s own', () => {
    const box = shown(<Box as="section" aria-label="Air" data-code="A1" p="2" className="patch" />);
    expect(box.tagName).toBe('SECTION');
    expect([...box.attributes].map(a => a.name).sort()).toEqual(['aria-label', 'class', 'data-code']);
    expect(box.classList).toContain('patch');
  });

  it('that is to look like a button is the link it holds, with what both do when pressed', () => {
    const outer = vi.fn();
    const inner = vi.fn(event => event.preventDefault());
    const link = shown(
      <Button asChild onClick={outer} variant="outline">
        <a href="/w/mine" onClick={inner} className="own">
          Trials
        </a>
      </Button>,
    );
    expect(link.tagName).toBe('A');
    expect(link.getAttribute('href')).toBe('/w/mine');
    expect(link.getAttribute('type')).toBeNull();
    expect(link.classList).toContain('own');
    expect([...link.classList].filter(n => n.startsWith('css-'))).toEqual(
      looks(kit.Button as never, { variant: 'outline' }),
    );
    fireEvent.click(link);
    expect([outer.mock.calls.length, inner.mock.calls.length]).toEqual([1, 1]);
  });

  it('that is to be drawn as nothing is a mistake', () => {
    const silent = vi.spyOn(console, 'error').mockReturnValue();
    expect(() => shown(<Box asChild>words</Box>)).toThrow('nothing to be drawn');
    silent.mockRestore();
  });

  it('that is at work cannot be pressed and says so', () => {
    const press = vi.fn();
    const button = shown(
      <Button loading loadingText="Opening" onClick={press}>
        Open
      </Button>,
    );
    fireEvent.click(button);
    expect(press).not.toHaveBeenCalled();
    expect(button.getAttribute('aria-busy')).toBe('true');
    expect(button.textContent).toBe('Opening');
    expect(button.querySelector('[class*=spinner]')).not.toBeNull();
    const idle = shown(<Button onClick={press}>Open</Button>);
    expect([idle.getAttribute('type'), idle.getAttribute('aria-busy'), idle.textContent]).toEqual([
      ...['button', null, 'Open'],
    ]);
    fireEvent.click(idle);
    expect(press).toHaveBeenCalledTimes(1);
  });
});
