// A worker thread does not inherit the loader of TypeScript; this takes it along.
import { register } from "tsx/esm/api";

register();
await import("./worker.ts");
