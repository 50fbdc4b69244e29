// Builds what a machine needs that runs Amigo without `npm start`: the packages, the pages and the programs.
import { needBundles, needNode, needPackages, needPages } from "./setUp.mjs";

needNode();
needPackages();
needPages();
needBundles();
