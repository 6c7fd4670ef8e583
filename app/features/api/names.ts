/** Names of fields: a form has `instrumentId`, JSON has `instrument_id` as the tables do. */

export const snake = (name: string): string => name.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`);
export const camel = (name: string): string => name.replace(/_([a-z])/g, (_, c: string) => c.toUpperCase());
