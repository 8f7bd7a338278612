/** The colours of the theme as they are now, and what is drawn with them of a row of days. */
import { useColorScheme } from '@mui/material/styles';
import type { PlannerBar } from '@north-pebble/contract';
import { useMemo } from 'react';
import { runs } from './runs.ts';

export type Ink = {
  readonly text: string;
  readonly quiet: string;
  readonly paper: string;
  readonly booked: string;
  readonly elsewhere: string;
  readonly other: string;
  readonly holiday: string;
  readonly short: string;
  readonly font: string;
};

/** A canvas knows no variables: they are read again when the scheme changes. */
export function useInk(): Ink {
  const { mode, systemMode } = useColorScheme();
  const scheme = mode === 'system' ? systemMode : mode;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the variables are another's when the scheme is
  return useMemo(() => {
    const style = getComputedStyle(document.documentElement);
    const of = (name: string) => style.getPropertyValue(`--mui-palette-${name}`).trim() || '#1d2b33';
    return {
      text: of('text-primary'),
      quiet: of('text-secondary'),
      paper: of('background-default'),
      booked: of('primary-main'),
      elsewhere: of('success-main'),
      other: of('secondary-main'),
      holiday: of('warning-main'),
      short: of('error-main'),
      font: getComputedStyle(document.body).fontFamily,
    };
  }, [scheme]);
}

/** How wide a day is, and how high a row. */
export type Size = { readonly cell: number; readonly height: number };

/** A canvas as fine as the screen is, emptied; one that has its size already keeps what it is made of. */
export function begin(canvas: HTMLCanvasElement, width: number, height: number): CanvasRenderingContext2D | null {
  const ratio = window.devicePixelRatio || 1;
  const [wide, high] = [Math.round(width * ratio), Math.round(height * ratio)];
  const ctx = canvas.getContext('2d');
  if (canvas.width !== wide || canvas.height !== high) {
    canvas.width = wide;
    canvas.height = high;
  } else {
    ctx?.setTransform(1, 0, 0, 1, 0, 0);
    ctx?.clearRect(0, 0, wide, high);
  }
  ctx?.setTransform(ratio, 0, 0, ratio, 0, 0);
  return ctx;
}

/** A shade is drawn once and copied for everybody who has it. */
const stamps = new WeakMap<Ink, Map<string, HTMLCanvasElement>>();
const mostStamps = 300;

function stampOf(shade: string, size: Size, ink: Ink): HTMLCanvasElement {
  const ofInk = stamps.get(ink) ?? new Map<string, HTMLCanvasElement>();
  stamps.set(ink, ofInk);
  const key = `${size.cell} ${size.height} ${window.devicePixelRatio} ${shade}`;
  const known = ofInk.get(key);
  if (known) return known;
  const canvas = document.createElement('canvas');
  const ctx = begin(canvas, (shade.length / 2) * size.cell, size.height);
  if (ctx) drawShade(ctx, shade, size, ink);
  if (ofInk.size >= mostStamps) ofInk.clear();
  ofInk.set(key, canvas);
  return canvas;
}

function drawShade(ctx: CanvasRenderingContext2D, shade: string, { cell, height }: Size, ink: Ink): void {
  for (const { mark, from, length } of runs(shade)) {
    if (mark === 'w') continue;
    ctx.globalAlpha = mark === 'h' ? 0.24 : 0.075;
    ctx.fillStyle = mark === 'h' ? ink.holiday : ink.text;
    ctx.fillRect((from * cell) / 2, 1, (length * cell) / 2, height - 2);
  }
  ctx.globalAlpha = 1;
}

const colourOf = (kind: PlannerBar['kind'], ink: Ink): string =>
  kind === 'elsewhere' ? ink.elsewhere : kind === 'other' ? ink.other : ink.booked;

/** Slanted lines inside the shape that is being drawn. */
function hatch(ctx: CanvasRenderingContext2D, x: number, y: number, width: number, height: number): void {
  ctx.save();
  ctx.clip();
  ctx.beginPath();
  for (let at = x - height; at < x + width; at += 5) {
    ctx.moveTo(at, y + height);
    ctx.lineTo(at + height, y);
  }
  ctx.stroke();
  ctx.restore();
}

/** Words are few and measured once. */
const widths = new Map<string, number>();
function wordWidth(ctx: CanvasRenderingContext2D, word: string): number {
  const known = widths.get(word);
  if (known !== undefined) return known;
  const found = ctx.measureText(word).width;
  if (widths.size > 500) widths.clear();
  widths.set(word, found);
  return found;
}

/** Told apart by how they are filled, and by a word where there is room for it. */
function drawBar(ctx: CanvasRenderingContext2D, bar: PlannerBar, { cell, height }: Size, ink: Ink): void {
  const gap = cell > 8 ? 0.75 : 0;
  const x = (bar.first * cell) / 2 + gap;
  const width = Math.max(2, ((bar.last - bar.first + 1) * cell) / 2 - 2 * gap);
  const y = 6;
  const tall = height - 12;
  const colour = colourOf(bar.kind, ink);
  ctx.strokeStyle = colour;
  ctx.lineWidth = 1;
  ctx.beginPath();
  ctx.roundRect(x, y, width, tall, Math.min(5, width / 2));
  ctx.fillStyle = bar.kind === 'booked' ? colour : ink.paper;
  ctx.fill();
  if (bar.kind === 'other') {
    ctx.globalAlpha = 0.7;
    hatch(ctx, x, y, width, tall);
    ctx.globalAlpha = 1;
  } else if (bar.kind !== 'booked') {
    ctx.globalAlpha = bar.kind === 'asked' ? 0.16 : 0.2;
    ctx.fillStyle = colour;
    ctx.fill();
    ctx.globalAlpha = 1;
  }
  ctx.beginPath();
  ctx.roundRect(x + 0.5, y + 0.5, Math.max(1, width - 1), tall - 1, Math.min(4.5, width / 2));
  ctx.setLineDash(bar.kind === 'asked' ? [3, 2] : []);
  ctx.stroke();
  ctx.setLineDash([]);
  const word = bar.label.slice(0, bar.label.indexOf(':'));
  ctx.font = `600 11px ${ink.font}`;
  if (bar.kind === 'other' || width < 24 || wordWidth(ctx, word) + 10 > width) return;
  ctx.fillStyle = bar.kind === 'booked' ? ink.paper : ink.text;
  ctx.fillText(word, x + 5, y + tall / 2 + 4);
}

/** A person’s days: what is not worked, holidays, and what they are away for. */
export function drawPerson(
  ctx: CanvasRenderingContext2D,
  shade: string,
  bars: readonly PlannerBar[],
  size: Size,
  ink: Ink,
): void {
  const width = (shade.length / 2) * size.cell;
  if (width > 0) ctx.drawImage(stampOf(shade, size, ink), 0, 0, width, size.height);
  for (const bar of bars) drawBar(ctx, bar, size, ink);
}

/**
 * How many of a team are here: as numbers where a day is wide enough for one, as columns otherwise.
 * @param short on which days they are fewer than are needed
 */
export function drawTeam(
  ctx: CanvasRenderingContext2D,
  { here, people }: { here: readonly number[]; people: number },
  short: readonly boolean[],
  { cell, height }: Size,
  ink: Ink,
): void {
  const isNumber = cell >= 18;
  ctx.textAlign = 'center';
  for (const [day, n] of here.entries()) {
    const isShort = short[day] === true;
    ctx.fillStyle = isShort ? ink.short : n === 0 ? ink.quiet : ink.elsewhere;
    const x = day * cell;
    if (isNumber) {
      ctx.font = `${isShort ? 700 : 600} 11.5px ${ink.font}`;
      ctx.fillText(String(n), x + cell / 2, height / 2 + 4);
      if (isShort) ctx.fillRect(x + cell / 2 - 7, height / 2 + 7, 14, 2);
      continue;
    }
    ctx.globalAlpha = isShort ? 1 : 0.4;
    const tall = people === 0 ? 0 : (n / people) * (height - 14);
    ctx.fillRect(x, height - 4 - tall, Math.max(1, cell - (cell > 4 ? 1 : 0)), tall);
    ctx.globalAlpha = 1;
    if (isShort) ctx.fillRect(x + cell / 2 - 1.5, 3, 3, 3);
  }
  ctx.textAlign = 'start';
}
