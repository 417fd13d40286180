import { describe, expect, it } from 'vitest';
import { routes } from '../routes.tsx';
import { titled } from '../ui/page-focus.ts';
import { titleOf } from './titles.ts';

describe('the title of a page', () => {
  it('names every page there is, each by another name', () => {
    const paths = (routes[0].children ?? []).map(r => (r.index ? '' : r.path!)).filter(p => !p.includes(':'));
    const titles = paths.map(p => titleOf(`/w/mine${p && `/${p}`}`));
    expect(titles).not.toContain(titled('Nothing here'));
    // The planner is a part of beginning a trial.
    expect(new Set(titles).size).toBe(titles.length - 1);
  });

  it('is left to what a trial or a recipe is called, and says where nothing is', () => {
    expect(titleOf('/w/mine/t/ABC/plan')).toBeUndefined();
    expect(titleOf('/w/mine/recipes/R1')).toBeUndefined();
    expect(titleOf('/w/mine/recipes')).toBe('Recipes · Wet Test');
    expect(titleOf('/w/mine/nowhere')).toBe('Nothing here · Wet Test');
  });
});
