import { writeFileSync } from "node:fs";
import openapiTS, { astToString } from "openapi-typescript";
import { openApi } from "../app/features/api/described";
import { pages } from "../server/open/documented";

/**
 * Writes what docs/ says of the open formats anew, from the formats themselves, and the client that tests use, from the document for
 * programs. A test holds them against it.
 */

const at = (path: string) => new URL(`../${path}`, import.meta.url);

for (const [file, text] of Object.entries(pages())) writeFileSync(at(`docs/${file}`), text);
writeFileSync(at("docs/openapi.json"), `${JSON.stringify(openApi(), null, 2)}\n`);
writeFileSync(
  at("e2e/programs-client.d.ts"),
  `/** Made by openapi-typescript from docs/openapi.json: npm run formats. */\n\n${astToString(await openapiTS(openApi() as never, { defaultNonNullable: false }))}`,
);
