/** A number without the digits after so many, which binary fractions leave behind. */
export const rounded = (value: number, places = 4): number => Number(value.toFixed(places));

/** The nearest multiple of a grain. */
export const onGrain = (value: number, grain: number, places = 4): number => rounded(Math.round(value / grain) * grain, places);
