import { withDatabase } from "./withDatabase.mjs";

// Takes the pictures in docs/screenshots/ again, from the demo house.
await withDatabase("e2e/takeScreenshots.ts");
