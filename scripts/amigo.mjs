// Amigo at the command line: npm run -s amigo -- help
import { pathToFileURL } from "node:url";
import { bundleOf } from "./run.mjs";
import { needBundles, needNode } from "./setUp.mjs";

needNode();
needBundles();
await import(pathToFileURL(bundleOf("server/commands/main.ts")).href);
