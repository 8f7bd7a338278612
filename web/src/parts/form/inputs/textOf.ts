export const textOf = (value: unknown): string => (typeof value === 'string' ? value : '');
