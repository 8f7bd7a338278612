/** The zone of whoever sits before this page, which the house does not know. */
export const ownZone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone;
