/** How an effect that is to go out waits, before it is tried for the first time. */
export const waiting = { state: 'waiting', attempts: 0, nextTry: 0 } as const;
