import { customType } from "drizzle-orm/pg-core";

/** What is kept as it came: a photo, a logo. */
export const bytes = customType<{ data: Buffer }>({ dataType: () => "bytea" });
