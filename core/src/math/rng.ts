import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { xoroshiro128plusFromState } from 'pure-rand/generator/xoroshiro128plus';

/** A seeded source of random numbers. The core never draws from anywhere else. */
export interface Rng {
  /** uniform in [0, 1) */
  uniform(): number;
  /** normal with mean and standard deviation */
  normal(mean: number, sd: number): number;
  /** log-normal given its median and the standard deviation of its logarithm */
  logNormal(median: number, sigma: number): number;
}

/**
 * A generator with a seed of its own: the same seed gives the same numbers everywhere.
 * @param seed any integer
 */
export function seededRng(seed: number): Rng {
  const source = xoroshiro128plusFromState(spreadOut(seed));
  const uniform = () => uniformFloat64(source);
  let spare: number | null = null;
  const standard = () => {
    if (spare !== null) {
      const kept = spare;
      spare = null;
      return kept;
    }
    // Box and Muller 1958: two independent normals from two uniforms; 1 - u avoids the logarithm of zero.
    const radius = Math.sqrt(-2 * Math.log(1 - uniform()));
    const angle = 2 * Math.PI * uniform();
    spare = radius * Math.sin(angle);
    return radius * Math.cos(angle);
  };
  return {
    uniform,
    normal: (mean, sd) => mean + sd * standard(),
    logNormal: (median, sigma) => median * Math.exp(sigma * standard())
  };
}

/**
 * A generator's whole state from one number. Taken as it is, a seed leaves most of the state empty, and the first
 * numbers of neighbouring seeds run alike: four words of splitmix32 (Steele, Lea & Flood 2014) fill it.
 */
function spreadOut(seed: number): number[] {
  let at = seed | 0;
  return Array.from({ length: 4 }, () => {
    at = (at + 0x9e3779b9) | 0;
    let word = Math.imul(at ^ (at >>> 16), 0x21f0aaad);
    word = Math.imul(word ^ (word >>> 15), 0x735a2d97);
    return word ^ (word >>> 15);
  });
}
