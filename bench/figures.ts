export interface Figure {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
}

export function quantileOf(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? NaN;
}

export const medianOf = (values: readonly number[]): number => quantileOf(values, 0.5);
