import { runAmigo } from "./runAmigo";

/** The program as a school or club runs it. */
runAmigo();
