// The child process takes the loader of TypeScript along, as the desk's thread does.
import { register } from "tsx/esm/api";

register();
await import("./child.ts");
