/** Files that are given with requests. */
export { fileRoutes, receive, refuseLarge, sendFile } from './routes.ts';
export {
  attachFiles,
  bytesOf,
  clearLoose,
  keepOf,
  ofComments,
  type StoredFile,
  storeMade,
  takeIn,
  throwAway,
} from './service.ts';
