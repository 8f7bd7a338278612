/** A boat or an aircraft hired for a trip: offers side by side, who may spend that much, and the booking. */
import type { Step } from '../workflow/index.ts';
import {
  approve,
  ask,
  asker,
  decide,
  decline,
  declined,
  end,
  goodAndBad,
  longText,
  message,
  people,
  programmeAndLead,
  role,
  sendBack,
  starter,
  task,
  tell,
  text,
  within,
} from './pieces.ts';

/** The cheapest of the offers that hold everybody. */
const cheapest = 'min(for o in Offers[Holds >= People] return o.Price)';

export const charter = starter('charter', {
  name: 'Charter',
  area: 'Travel',
  tags: ['travel', 'cost'],
  purpose: 'A boat or an aircraft hired for a trip: what it costs, who may spend that, and the booking.',
  afterwards: { change: 'decided', cancel: 'at once' },
  form: {
    sections: [
      { id: 'trip', title: 'The trip' },
      { id: 'offers', title: 'Offers' },
      { id: 'desk', title: 'From the travel desk' },
    ],
    fields: [
      ...programmeAndLead,
      { kind: 'pick', id: 'from', label: 'From', required: true, list: 'places', section: 'trip' },
      {
        kind: 'pick',
        id: 'to',
        label: 'To',
        required: true,
        list: 'places',
        section: 'trip',
        checks: [{ formula: 'To != From', message: 'It begins there already.' }],
      },
      { kind: 'date range', id: 'dates', label: 'On', required: true, section: 'trip' },
      { kind: 'whole number', id: 'people', label: 'People', required: true, least: 1, most: 60, section: 'trip' },
      longText('freight', 'Freight', false, { section: 'trip' }),
      {
        kind: 'table',
        id: 'offers',
        label: 'Offers',
        required: true,
        section: 'offers',
        columns: [
          { id: 'owner', label: 'Owner', kind: 'text' },
          { id: 'holds', label: 'Holds', kind: 'number' },
          { id: 'price', label: 'Price', kind: 'money' },
        ],
        checks: [{ formula: `count(Offers[Holds >= People]) > 0`, message: 'None of them holds everybody.' }],
      },
      text('owner', 'Owner booked', false, { section: 'desk', askerReads: true }),
      text('reference', 'Booking reference', false, { section: 'desk', askerReads: true }),
      {
        kind: 'money',
        id: 'booked',
        label: 'Price as booked',
        required: false,
        currency: 'EUR',
        section: 'desk',
        askerReads: true,
      },
    ],
  },
  access: {
    ask: { owner: 'hidden', reference: 'hidden', booked: 'hidden' },
    book: { owner: 'required', reference: 'required', booked: 'required' },
  },
  figures: [
    { id: 'cheapest', name: 'Cheapest that holds all', formula: cheapest, unit: 'money' },
    { id: 'each', name: 'For each person', formula: 'Cheapest that holds all / People', unit: 'money' },
    {
      id: 'dearer',
      name: 'Dearer than approved',
      formula: 'Price as booked > Cheapest that holds all * 1.1',
      unit: 'yes/no',
    },
  ],
  steps: [
    ask,
    decide('lead', people({ kind: 'person in', field: 'lead' }, { kind: 'manager', levels: 1 }), within(3, 'pass up'), [
      approve,
      sendBack('lead', 'dates', 'people', 'offers', 'to'),
      decline,
    ]),
    decide(
      'spend',
      people(
        { kind: 'manager with', what: 'spending limit', least: 'Cheapest that holds all' },
        { kind: 'role', role: 'HR partner' },
      ),
      within(3),
      [approve, decline],
      { once: true },
    ),
    task('book', role('Travel desk'), 'Charters it', within(2), ['The owner has confirmed the day']),
    decide(
      'again',
      people({ kind: 'person in', field: 'lead' }, { kind: 'manager', levels: 1 }),
      within(1),
      [approve, decline],
      { when: 'Dearer than approved = true' },
    ),
    {
      verb: 'Record',
      id: 'planner',
      when: null,
      effect: { kind: 'planner', span: 'dates', label: 'Charter' },
    },
    {
      ...tell('told', 'booked', [asker]),
      attach: [{ what: 'invitation', of: 'dates', title: 'Charter to {To}' }],
    } as Step,
    end('done'),
  ],
  messages: [
    message(
      'booked',
      'Booked',
      'Chartered: {To}',
      'Hello {asker},',
      '{Owner booked} takes {People} to {To} on {On}. The reference is {Booking reference}; it costs {Price as booked}.',
    ),
    message(
      'done',
      'All is booked',
      'Your charter to {To} stands',
      'Hello {asker},',
      'everything for {request} is done.',
    ),
    declined,
  ],
  closings: goodAndBad('Chartered'),
});
