/** The other words that the trade has for what a starter is about, so that each of them finds it. */
import type { Starter } from './pieces.ts';

const words: Readonly<Record<string, string>> = {
  Leave:
    'holiday holidays vacation vacations time off day off days off pto paid leave absence break half day unpaid parental',
  'Compensation time': 'overtime toil time in lieu extra hours flexitime flex time hours back comp day',
  'Days given': 'donate donation give transfer share leave colleague sick child gift pool',
  'Time earned': 'overtime extra hours toil time in lieu on call stand-by standby flexitime claim hours back',
  'Sick leave': 'illness ill sickness absence doctor medical certificate fit note unwell injured recovery',
  'Days bought or sold': 'buy sell purchase exchange trade extra days leave cash out encash encashment payout top up',
  'Study leave': 'training course exam education school learning seminar conference sabbatical degree certificate',
  'Change of hours':
    'part time full time reduced hours working time schedule contract change flexible work pattern weekly hours',
  'Crossing and lodging': 'travel trip business trip journey flight ferry train hotel accommodation booking itinerary',
  'Expenses of a trip':
    'expenses expense claim receipts reimbursement reimburse mileage per diem paid back travel costs',
  'New colleague':
    'hire hiring onboarding on-boarding joiner starter start new employee new hire first day induction recruit entry',
  Leaver:
    'leave leaving resign resignation quit notice termination terminate offboarding off-boarding exit dismissal last day handover retire retirement',
  'Console access':
    'access account permission permissions login rights system software licence license role password application vpn admin',
  'Access review':
    'recertification certification attestation access check permissions still needed revoke remove rights audit owner',
  'Shared space': 'folder drive site team channel group workspace mailbox share directory',
  'New post':
    'position vacancy headcount job opening role requisition recruitment budget hire hiring establishment replacement',
  Application:
    'apply applicant candidate recruiting recruitment hire hiring interview cv resume job vacancy careers screening',
  Offer: 'job offer contract letter hire hiring appointment accept salary candidate applicant',
  Charter: 'hire rent boat ship aircraft helicopter vehicle transport travel trip freight quote quotes',
  Equipment:
    'laptop computer phone telephone mobile device monitor screen hardware tools kit purchase order buy clothing oilskins keys',
  'Change of post or place':
    'transfer move promotion new role job change relocation department internal mover reassignment',
  'Renewal of papers':
    'expiry expire passport permit visa identity card certificate licence medical right to work renew',
  'Change of name':
    'name change address bank details personal data marriage record update data correction contact master data',
};

export const otherWordsOf = ({ definition }: Pick<Starter, 'definition'>): string => words[definition.name] ?? '';
