/** Who plays a player: one persona each from the first on, the last one all that are left. */
export const playedBy = <One>(personas: readonly One[], player: number): One => personas[Math.min(player, personas.length - 1)] as One;
