/** Reference lists. */
export { changeList, loadLists, storeLists } from './store.ts';
