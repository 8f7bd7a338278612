import { createContext } from 'react';

/** Told of a request with which its reader is done, so that the next one may follow. */
export const Finished = createContext<(request: string) => void>(() => {});
