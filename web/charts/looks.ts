import type { Palette } from '../drawing/palette.ts';

/** Hues of lines and bars that stand beside each other; no two are told apart by hue alone. */
export const hues = ({ ink, role }: Palette): readonly string[] => [ink, role.movement, role.harm, role.mend, role.carry, role.score];
