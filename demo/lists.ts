/** The reference lists of the demo: programmes, consoles, equipment, open posts. */
import type { ReferenceList } from '@north-pebble/core/form';
import type { CivilDate } from '@north-pebble/core/time';

const row = (id: string, title: string, cells: ReferenceList['rows'][number]['cells']) => ({ id, title, cells });

export const lists: ReferenceList[] = [
  {
    id: 'programmes',
    name: 'Programmes',
    columns: [
      { id: 'lead', label: 'Lead', kind: 'text' },
      { id: 'contract', label: 'Contract', kind: 'text' },
      { id: 'ends', label: 'Ends', kind: 'date' },
      { id: 'trip-at-most', label: 'Trip at most', kind: 'money' },
    ],
    rows: [
      row('tide-gauges', 'Tide gauge renewal', {
        lead: 'tobias',
        contract: 'TG-114',
        ends: '2026-12-31',
        'trip-at-most': 1200,
      }),
      row('lamp-turning', 'Lamp turning at Skarn', {
        lead: 'leif',
        contract: 'LS-027',
        ends: '2026-09-30',
        'trip-at-most': 900,
      }),
      row('quay-wall', 'Hollin quay wall', {
        lead: 'marit',
        contract: 'HQ-009',
        ends: '2027-06-30',
        'trip-at-most': 1500,
      }),
    ],
  },
  {
    id: 'allowances',
    name: 'Allowances',
    columns: [
      { id: 'rate', label: 'Rate', kind: 'money' },
      { id: 'bed-at-most', label: 'Bed at most', kind: 'money' },
    ],
    rows: [
      row('port-ambrel', 'Port Ambrel', { rate: 32, 'bed-at-most': 85 }),
      row('ovay', 'Ovay Station', { rate: 28, 'bed-at-most': 80 }),
      row('skarn', 'Skarn Light', { rate: 41, 'bed-at-most': 90 }),
      row('hollin', 'Hollin Quay', { rate: 46, 'bed-at-most': 95 }),
    ],
  },
  {
    id: 'rates',
    name: 'Rates',
    columns: [{ id: 'for-one-euro', label: 'For one euro', kind: 'number' }],
    rows: [
      { ...row('nok-2026', 'NOK', { 'for-one-euro': 11.6 }), from: '2026-01-01' as CivilDate },
      {
        ...row('nok-2025', 'NOK', { 'for-one-euro': 11.4 }),
        from: '2025-01-01' as CivilDate,
        to: '2025-12-31' as CivilDate,
      },
      { ...row('isk-2026', 'ISK', { 'for-one-euro': 148 }), from: '2026-01-01' as CivilDate },
    ],
  },
  {
    id: 'groups',
    name: 'Consoles',
    columns: [{ id: 'steward', label: 'Steward', kind: 'text' }],
    rows: [
      row('tide-console', 'Tide console', { steward: 'kofi' }),
      row('lamp-console', 'Lamp console', { steward: 'kofi' }),
      row('ferry-console', 'Ferry console', { steward: 'kofi' }),
    ],
  },
  {
    id: 'equipment',
    name: 'Equipment',
    columns: [
      { id: 'price', label: 'Price', kind: 'money' },
      { id: 'shelf', label: 'Shelf', kind: 'text' },
    ],
    rows: [
      row('oilskins', 'Oilskins', { price: 85, shelf: 'A1' }),
      row('radio', 'Hand radio', { price: 240, shelf: 'B3' }),
      row('laptop', 'Laptop', { price: 1150, shelf: 'order' }),
      row('survival-suit', 'Survival suit', { price: 620, shelf: 'C2' }),
    ],
  },
  {
    id: 'open-posts',
    name: 'Open posts',
    columns: [
      { id: 'department', label: 'Department', kind: 'text', outside: true },
      { id: 'profile', label: 'Profile', kind: 'text', outside: true },
      { id: 'cost', label: 'Cost', kind: 'money' },
      { id: 'post-on-file', label: 'Post on file', kind: 'text' },
    ],
    rows: [
      row('watch-lead', 'Watch lead, Skarn Light', {
        department: 'Lights',
        profile: 'Leads a watch of four at the light: sees to the lamp, the log and the relief boat.',
        cost: 58000,
        'post-on-file': 'lights-skarn-s9',
      }),
      row('workshop-lead', 'Workshop supervisor, Ambrel', {
        department: 'Workshop',
        profile: 'Leads six fitters: plans the slipway, sees that tools are safe, and teaches two apprentices.',
        cost: 54600,
        'post-on-file': 'workshop-ambrel-s2',
      }),
    ],
  },
];
