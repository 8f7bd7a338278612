/** Files that are given with requests. */
export { fileRoutes } from './routes.ts';
export { attachFiles, clearLoose, type StoredFile } from './service.ts';
