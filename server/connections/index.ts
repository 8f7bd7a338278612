/** Ways out of the house. */

export { absentFrom } from './absent.ts';
export type { Answered, Asked } from './connector.ts';
export {
  type Granted,
  givenBesides,
  givingOrTaking,
  grantsOf,
  groupsGiven,
  mendingKey,
  passOn,
  stillGiven,
} from './grants.ts';
export * from './mail.ts';
export type { Opened } from './registry.ts';
export { connectionRoutes } from './routes.ts';
export {
  connectionNames,
  connectionOffers,
  hideConnections,
  keepConnection,
  loadConnection,
  loadConnections,
  opened,
  type StoredConnection,
} from './store.ts';
