import { addKey } from "../src/adapters/encryption";
import { readEnvironment } from "../src/server/environment";

// Puts a fresh sealing key in front of the key file. Restart the server to use it; what older keys sealed still opens.
const { key, keyFile } = readEnvironment(process.env);
if (key !== undefined)
  console.log("The keys come from KIND_LEDGER_KEY: put a new id:base64 pair in front of it there.");
else
  console.log(`New values are sealed with ${addKey(keyFile)} after the next start. Keep the older keys in ${keyFile}.`);
