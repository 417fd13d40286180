import betaCdf from '@stdlib/stats-base-dists-beta-cdf';
import fQuantile from '@stdlib/stats-base-dists-f-quantile';
import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import studentQuantile from '@stdlib/stats-base-dists-t-quantile';

/**
 * log Γ(x) by Stirling's series with the argument shifted above 10; good to 1e-12 for x > 0
 * (Abramowitz & Stegun 6.1.41).
 */
export function logGamma(x: number): number {
  let shift = 0;
  let z = x;
  while (z < 10) shift -= Math.log(z++);
  const r = 1 / (z * z);
  const series = (1 / 12 - r * (1 / 360 - r * (1 / 1260 - r * (1 / 1680 - r / 1188)))) / z;
  return shift + (z - 0.5) * Math.log(z) - z + 0.5 * Math.log(2 * Math.PI) + series;
}

/**
 * Power of the two-sided t test: P(|T| > t₁₋α/₂) with T noncentral t. `shift`: true difference over its standard
 * error; the scale s = √(χ²/ν) is integrated out with Simpson's rule: ∫ f(s)·[Φ(δ − cs) + Φ(−δ − cs)] ds.
 *
 * @example tPower(0, 10).toFixed(2); // => '0.05'
 */
export function tPower(shift: number, degreesOfFreedom: number, alpha = 0.05): number {
  const nu = degreesOfFreedom;
  const c = studentQuantile(1 - alpha / 2, nu);
  const logScale = Math.log(2) + (nu / 2) * Math.log(nu / 2) - logGamma(nu / 2);
  const density = (s: number) =>
    s <= 0 ? 0 : Math.exp(logScale + (nu - 1) * Math.log(s) - (nu * s * s) / 2);
  const spread = 8 / Math.sqrt(2 * nu);
  const lo = Math.max(1e-9, 1 - spread);
  const hi = 1 + spread + (nu < 3 ? 4 : 0);
  const steps = 600;
  const h = (hi - lo) / steps;
  let sum = 0;
  for (let i = 0; i <= steps; i++) {
    const s = lo + i * h;
    const beyond = normalCdf(shift - c * s, 0, 1) + normalCdf(-shift - c * s, 0, 1);
    sum += (i === 0 || i === steps ? 1 : i % 2 ? 4 : 2) * density(s) * beyond;
  }
  return (sum * h) / 3;
}

/**
 * Power of the F test of a factor: P(F > f₁₋α) with F noncentral, as a Poisson mixture of beta distributions
 * (Johnson, Kotz & Balakrishnan 1995, ch. 30). `noncentrality` is Σ nᵢ(μᵢ − μ)²/σ².
 *
 * @example fPower(0, 2, 10).toFixed(2); // => '0.05'
 */
export function fPower(noncentrality: number, between: number, within: number, alpha = 0.05): number {
  const critical = fQuantile(1 - alpha, between, within);
  const x = (between * critical) / (between * critical + within);
  const mean = noncentrality / 2;
  let below = 0;
  const most = Math.ceil(mean + 12 * Math.sqrt(mean + 1) + 40);
  for (let j = 0; j <= most; j++) {
    const weight = Math.exp(
      -mean + (mean > 0 ? j * Math.log(mean) : j ? Number.NEGATIVE_INFINITY : 0) - logGamma(j + 1),
    );
    if (weight > 1e-17) below += weight * betaCdf(x, between / 2 + j, within / 2);
  }
  return 1 - below;
}

/**
 * The smallest true difference a two-sided test at 5 % notices `power` of the time, in units of its standard
 * error. Infinite when no degree of freedom is left to judge chance by.
 *
 * @example noticeable(10) > noticeable(100); // => true
 */
export function noticeable(degreesOfFreedom: number, power = 0.8, alpha = 0.05): number {
  if (degreesOfFreedom < 1) return Number.POSITIVE_INFINITY;
  const key = `${degreesOfFreedom} ${power} ${alpha}`;
  const known = found.get(key) ?? search(degreesOfFreedom, power, alpha);
  found.set(key, known);
  return known;
}

/** Answers found already: plans ask for the same few again and again while they are edited. */
const found = new Map<string, number>();

function search(degreesOfFreedom: number, power: number, alpha: number): number {
  let lo = 0;
  let hi = 4;
  while (tPower(hi, degreesOfFreedom, alpha) < power) {
    hi *= 2;
    if (hi > 1000) return Number.POSITIVE_INFINITY;
  }
  for (let i = 0; i < 40; i++) {
    const mid = (lo + hi) / 2;
    if (tPower(mid, degreesOfFreedom, alpha) < power) lo = mid;
    else hi = mid;
  }
  return (lo + hi) / 2;
}
