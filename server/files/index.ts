/** Files that are given with requests. */
export { fileRoutes } from './routes.ts';
export { attachFiles, clearLoose, ofComments, type StoredFile } from './service.ts';
