import { describe, expect, it } from 'vitest';
import { chanceFrom } from '../random/index.ts';
import { backward, cholesky, forward, square } from './small.ts';

/** A positive definite matrix of which most is nothing: a diagonal, and some rows that touch a few others. */
function sparse(n: number, seed: number) {
  const chance = chanceFrom(seed);
  const a = square(n);
  for (let i = 0; i < n; i++) a[i][i] = 5 + chance.next();
  for (let t = 0; t < n; t++) {
    const [i, j] = [chance.whole(0, n - 1), chance.whole(0, n - 1)];
    if (i === j) continue;
    a[i][j] = chance.between(-0.4, 0.4);
    a[j][i] = a[i][j];
  }
  return a;
}

describe('the Cholesky factor', () => {
  it.each([3, 24, 25, 60])('of a matrix of %s columns with much nothing in it gives it back', n => {
    const a = sparse(n, n);
    const l = cholesky(a)!;
    for (let i = 0; i < n; i++)
      for (let j = 0; j <= i; j++) {
        let sum = 0;
        for (let k = 0; k <= j; k++) sum += l[i][k] * l[j][k];
        expect(sum).toBeCloseTo(a[i][j], 10);
      }
  });

  it.each([10, 40])('solves with %s columns, and says what is not positive definite', n => {
    const a = sparse(n, n + 1);
    const x = Float64Array.from({ length: n }, (_, i) => Math.sin(i));
    const b = Float64Array.from(a, row => row.reduce((sum, v, i) => sum + v * x[i], 0));
    const found = backward(cholesky(a)!, forward(cholesky(a)!, b));
    for (let i = 0; i < n; i++) expect(found[i]).toBeCloseTo(x[i], 9);
    a[n - 1][n - 1] = -1;
    expect(cholesky(a)).toBeUndefined();
    a[n - 1].fill(0);
    expect(cholesky(a)).toBeUndefined();
  });
});
