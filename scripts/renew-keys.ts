import { connect, poolOf } from "../db/client";
import { forgetOlderKeys, renewKey } from "../server/keys";
import { renewSealKey } from "../server/people/reseal";

/** As whoever owns the tables, on DATABASE_URL and KEY_FOLDER. */
const db = connect(process.env.DATABASE_URL!);
const sealed = await renewSealKey(db);
// Papers under the one of before are made anew when they are asked for.
renewKey("mac.key", Date.now());
forgetOlderKeys("mac.key");
console.log(`Renewed: seal.key, with ${sealed} secrets sealed anew, and mac.key. Take a new copy of the key folder.`);
await poolOf(db).end();
