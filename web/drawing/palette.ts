import type { Role } from '@dial/core/level';
import { ROLES } from '@dial/core/level';
import { useSyncExternalStore } from 'react';
import { lasting, remember } from '../browser/storage.ts';
import { ROLE_PATTERNS } from './roles.ts';

export type ThemeName = 'light' | 'dark';

/** The colours of the theme in force, for surfaces that draw their own pixels, and each role's pattern as a tile. */
export interface Palette {
  readonly theme: ThemeName;
  readonly paper: string;
  readonly panel: string;
  readonly card: string;
  readonly line: string;
  readonly ink: string;
  readonly soft: string;
  readonly needle: string;
  readonly role: Readonly<Record<Role, string>>;
  readonly tile: Readonly<Record<Role, HTMLCanvasElement>>;
  /** The slanted lines of what rests, as a tile. */
  readonly hatch: HTMLCanvasElement;
}

/** Tiles are drawn at twice their size, so that they stay sharp on dense screens. */
const TILE_SCALE = 2;

const patterns = new WeakMap<HTMLCanvasElement, CanvasPattern>();

/** A tile of the palette as what is filled with; one tile is always turned by the same degrees. */
export function tiled(context: CanvasRenderingContext2D, tile: HTMLCanvasElement, turned: number): CanvasPattern | string {
  const known = patterns.get(tile);
  if (known !== undefined) return known;
  const pattern = context.createPattern(tile, 'repeat');
  if (pattern === null) return 'transparent';
  pattern.setTransform(new DOMMatrix().rotate(turned).scale(1 / TILE_SCALE));
  patterns.set(tile, pattern);
  return pattern;
}

/** A square tile of so many pixels. */
function drawTile(size: number, draw: (context: CanvasRenderingContext2D) => void): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = size * TILE_SCALE;
  const context = canvas.getContext('2d');
  if (context === null) return canvas;
  context.scale(TILE_SCALE, TILE_SCALE);
  draw(context);
  return canvas;
}

const roleTile = (role: Role, colour: string, card: string): HTMLCanvasElement =>
  drawTile(8, (context) => {
    context.fillStyle = card;
    context.fillRect(0, 0, 8, 8);
    context.fillStyle = context.strokeStyle = colour;
    context.globalAlpha = ROLE_PATTERNS[role].wash;
    context.fillRect(0, 0, 8, 8);
    for (const { d, fill, width } of ROLE_PATTERNS[role].paths) {
      const path = new Path2D(d);
      context.globalAlpha = 0.8;
      context.lineWidth = width ?? 1;
      if (fill === true) context.fill(path);
      else context.stroke(path);
    }
  });

/** Pixels from one slanted line to the next. */
const HATCH = 6;

const hatchTile = (colour: string): HTMLCanvasElement =>
  drawTile(HATCH, (context) => {
    context.strokeStyle = colour;
    context.beginPath();
    for (const at of [-HATCH, 0, HATCH]) {
      context.moveTo(at - 1, -1);
      context.lineTo(at + HATCH + 1, HATCH + 1);
    }
    context.stroke();
  });

/** The colours in force at an element. */
export function readPalette(theme: ThemeName, at: Element = document.documentElement): Palette {
  const style = getComputedStyle(at);
  const colour = (name: string): string => style.getPropertyValue(`--${name}`).trim();
  const role = Object.fromEntries(ROLES.map((name) => [name, colour(name)])) as Record<Role, string>;
  const tile = Object.fromEntries(ROLES.map((name) => [name, roleTile(name, role[name], colour('card'))])) as Record<
    Role,
    HTMLCanvasElement
  >;
  return {
    theme,
    paper: colour('paper'),
    panel: colour('panel'),
    card: colour('card'),
    line: colour('line'),
    ink: colour('ink'),
    soft: colour('soft'),
    needle: colour('needle'),
    role,
    tile,
    hatch: hatchTile(colour('soft')),
  };
}

const STORED = 'dial-theme';
const listeners = new Set<() => void>();
let palette: Palette | null = null;

function preferred(): ThemeName {
  const stored = lasting.get(STORED);
  if (stored === 'light' || stored === 'dark') return stored;
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
}

function current(): Palette {
  if (palette === null) {
    const theme = preferred();
    document.documentElement.dataset['theme'] = theme;
    palette = readPalette(theme);
  }
  return palette;
}

/** Puts the theme in force on the page, whether or not anything on it asks for colours. */
export function applyTheme(): void {
  current();
}

/** Chooses a theme and remembers it on this machine. */
export function chooseTheme(theme: ThemeName): void {
  remember(STORED, theme);
  document.documentElement.dataset['theme'] = theme;
  palette = readPalette(theme);
  for (const listener of listeners) listener();
}

export function usePalette(): Palette {
  return useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, current);
}
