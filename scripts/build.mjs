// Builds what a machine needs that runs Amigo without `npm start`: the pages and the programs.
import { needBundles, needNode, needPages } from "./setUp.mjs";

needNode();
needPages();
needBundles();
