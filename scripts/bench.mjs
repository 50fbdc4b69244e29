import { withDatabase } from "./withDatabase.mjs";

// Measures reading a large roster, beside a baseline in the same run. `npm run bench -- --small` for a quick look.
await withDatabase("bench/main.ts", process.argv.slice(2));
