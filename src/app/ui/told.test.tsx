// @vitest-environment happy-dom
import { ChakraProvider } from '@chakra-ui/react';
import { render, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { Preferences } from '../../core/preferences/index.ts';
import { give, points, say, sure, thick } from '../../core/say/index.ts';
import { system } from '../theme/index.ts';
import { SettingsContext } from './settings.tsx';
import { headOf, meaningOf } from './told.model.ts';
import { Told } from './told.tsx';

const sentence = say`At ${thick(0.4)} more lands: ${sure(0.84, { rests: 'It rests on 12 patches.' })} sure, give or take ${give(points(3))}.`;
const shown = (units: 'metric' | 'imperial') =>
  render(
    <ChakraProvider value={system}>
      <SettingsContext
        value={{ settings: v.parse(Preferences, { system: units }), unkept: 0, change: () => {} }}
      >
        <p>
          <Told>{sentence}</Told>
        </p>
      </SettingsContext>
    </ChakraProvider>,
  );

/** What stands below the text, by the number that is open. */
const meaning = () =>
  document.getElementById(screen.getByRole('button', { expanded: true }).getAttribute('aria-controls') ?? '')
    ?.textContent;

describe('a number that is pressed', () => {
  it('says what it means and what it rests on, and nothing before or after', async () => {
    shown('metric');
    expect(screen.getByRole('paragraph').textContent).toBe(
      'At 0.4 mm more lands: 84 % sure, give or take 3 points.',
    );
    const figure = screen.getByRole('button', { name: '84 %' });
    expect(figure.getAttribute('aria-expanded')).toBe('false');
    await userEvent.click(figure);
    expect(figure.getAttribute('aria-expanded')).toBe('true');
    expect(meaning()).toMatch(/^84 %: Of a hundred such .* It rests on 12 patches\.$/);
    await userEvent.click(screen.getByRole('button', { name: '3 points' }));
    expect(meaning()).toMatch(/^give or take 3 points: .*nine of ten/);
    expect(figure.getAttribute('aria-expanded')).toBe('false');
    await userEvent.click(screen.getByRole('button', { name: '3 points' }));
    expect(screen.queryByText(/nine of ten/)).toBeNull();
  });
  it('is read in the maker’s own measures; what everybody knows is not pressed', () => {
    shown('imperial');
    expect(screen.getByRole('paragraph').textContent).toMatch(/^At 0\.016 in more lands/);
    expect(screen.getAllByRole('button').map(b => b.textContent)).toEqual(['84 %', '3 points']);
  });
  it('means what its kind means, and what was said of it', () => {
    expect(meaningOf(thick(1))).toBe('');
    expect(meaningOf(thick(1, { rests: 'As weighed.' }))).toBe('As weighed.');
    expect(meaningOf(points(1))).toMatch(/^Points of a hundred/);
    expect(headOf(points(1), { system: 'metric' })).toBe('1 point');
  });
});
