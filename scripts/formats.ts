import { writeFileSync } from "node:fs";
import { pages } from "../server/open/documented";

/** Writes what docs/ says of the open formats anew, from the formats themselves. A test holds it against them. */
for (const [file, text] of Object.entries(pages())) writeFileSync(new URL(`../docs/${file}`, import.meta.url), text);
