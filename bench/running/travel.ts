/** A trip: its itinerary set on ten pages, and what is worked out of a hundred legs at each key. */
import { starters } from '@north-pebble/core/starters';
import { addDays } from '@north-pebble/core/time';
import { type Block, evaluateFigures, withPosts } from '@north-pebble/core/workflow';
import { demoDay, id, leaveTypes, lists, plans } from '@north-pebble/demo';
import { letterOf } from '@north-pebble/server/papers';
import { index } from '../house.ts';
import { againstBar, type Row } from '../measure.ts';

const legs = 100;

/** A hundred legs, one after another. */
const rowsOf = (price: number) =>
  Array.from({ length: legs }, (_, n) => {
    const day = addDays(demoDay, Math.floor(n / 2));
    const [leaves, arrives] = n % 2 === 0 ? ['08:30', '10:45'] : ['15:30', '17:45'];
    return {
      from: 'Ovay Station',
      'leaves-on': day,
      leaves,
      by: 'Ferry',
      to: 'Port Ambrel',
      'arrives-on': day,
      arrives,
      price,
    };
  });

/** The longest of a hundred keys, in milliseconds: every key is another price, and all figures are worked out anew. */
function longestKey(): number {
  const definition = starters.find(one => one.id === 'crossing-and-lodging')?.definition;
  if (!definition) throw new Error('there is no starter for a trip');
  const book = { index, types: leaveTypes, plans, entries: [], adjustments: [], today: demoDay };
  const facts = { book, asker: id('ines'), lists: withPosts(index, lists) };
  const trip = {
    programme: 'tide-gauges',
    to: 'ovay',
    dates: { from: demoDay, to: addDays(demoDay, 50) },
    lodging: [],
  };
  let longest = 0;
  for (let key = 0; key < 120; key++) {
    const answers = { ...trip, legs: rowsOf(key + 1) } as never;
    const began = performance.now();
    const { figures } = evaluateFigures(definition, answers, facts);
    // The first twenty are read and compiled, as they are before the first key.
    if (key >= 20) longest = Math.max(longest, performance.now() - began);
    if (figures.cost === null || figures.allowance === null) throw new Error('the trip is not worked out');
  }
  return longest;
}

const tenPages: Block[] = [
  {
    kind: 'table',
    head: ['From', 'Leaves on', 'Leaves', 'To', 'Arrives', 'Price'],
    rows: Array.from({ length: 180 }, () => [
      'Port Ambrel',
      'Mon 9 February 2026',
      '08:30',
      'Ovay Station',
      '10:45',
      '43.00 EUR',
    ]),
    numeric: [false, false, false, false, false, true],
  },
  ...Array.from(
    { length: 110 },
    (_, n): Block => ({
      kind: 'paragraph',
      runs: [
        {
          text: `Clause ${n + 1}: who is on the water wears a life jacket, and whoever looks after the boat says when it leaves.`,
        },
      ],
    }),
  ),
];

async function itinerary(): Promise<number> {
  const letter = { title: 'Itinerary of Ines Okoro', blocks: tenPages, foot: 'R-1001' };
  const times: number[] = [];
  for (let n = 0; n < 12; n++) {
    const began = performance.now();
    const bytes = Buffer.from(await letterOf(letter)).toString('latin1');
    times.push(performance.now() - began);
    const pages = bytes.match(/\/Type \/Page\b(?!s)/g)?.length ?? 0;
    if (pages < 10) throw new Error(`the itinerary has ${pages} pages`);
  }
  // Faces are read with the first ones.
  const later = times.slice(2).sort((a, b) => a - b);
  return later[Math.floor(later.length / 2)];
}

export async function travelRows(): Promise<Row[]> {
  return [
    againstBar('an itinerary of ten pages set as a PDF, median of ten, in ms', await itinerary(), 300),
    againstBar('the figures of a trip of 100 legs at a key, the longest of a hundred, in ms', longestKey(), 16),
  ];
}
