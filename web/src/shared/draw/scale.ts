/** From a quantity to a place on the picture. */
export type Scale = (value: number) => number;

export function linear(from: [number, number], to: [number, number]): Scale {
  const slope = (to[1] - to[0]) / (from[1] - from[0]);
  return (value) => to[0] + (value - from[0]) * slope;
}

export function logarithmic(from: [number, number], to: [number, number]): Scale {
  const inner = linear([Math.log10(from[0]), Math.log10(from[1])], to);
  return (value) => inner(Math.log10(value));
}

const NICE = [1, 2, 5, 10];

/** Round ticks, about as many as asked for. */
export function ticks(low: number, high: number, about: number): number[] {
  const rough = (high - low) / about;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = power * (NICE.find((nice) => nice * power >= rough) ?? 10);
  const first = Math.ceil(low / step);
  return Array.from({ length: Math.floor(high / step) - first + 1 }, (_, i) => (first + i) * step);
}
