/** Files that are given with requests. */
export { fileRoutes } from './routes.ts';
export { attachFiles, keepTidy, type StoredFile } from './service.ts';
