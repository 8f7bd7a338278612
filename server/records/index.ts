/** People, posts, lines and roles as they are on file: found, looked at through time, changed with what follows from it. */
export { aroundOf, countedAhead, isTouched, keepByHouse, previewChange, saveChange } from './changing.ts';
export { recordRoutes } from './routes.ts';
export { editWords } from './views/words.ts';
