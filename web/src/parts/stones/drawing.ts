/** What is drawn: stones in lanes, the ways between them, and how it can end. */
export type Stone = {
  step: string;
  number: string;
  kind: 'ask' | 'house' | 'person' | 'split' | 'hold';
  label: string;
  x: number;
  y: number;
  /** Pills have a length, the others none. */
  width: number;
};
export type End = { closing: string; label: string; tone: 'good' | 'bad' | 'neutral'; x: number; y: number };
export type Link = {
  key: string;
  kind: 'on' | 'side' | 'rework' | 'lane';
  from: [number, number];
  to: [number, number];
  step: string;
  /** Its line, led around the stones that it does not belong to. */
  path: string;
};
export type Lane = { label: string; y: number };
export type Tick = { x: number; label: string };
export type Layout = {
  width: number;
  height: number;
  /** Where the lanes begin, beside their names. */
  left: number;
  lanes: Lane[];
  stones: Stone[];
  ends: End[];
  links: Link[];
  ticks: Tick[];
};
