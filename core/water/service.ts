/** Months between services: on a line it works all day, on a tank mostly at home. Common practice; the shorter ones from memory. */
export const SERVICE_MONTHS = { plumbed: { usual: 6, hard: 3 }, tank: { usual: 12, hard: 6 } } as const;

/** Months between services of what takes its water in one of these ways; a grinder takes none. */
export const serviceMonths = (supply: string) => SERVICE_MONTHS[supply === "plumbed" ? "plumbed" : "tank"];
