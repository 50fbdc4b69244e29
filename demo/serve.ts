import { runAmigo } from "@amigo/server/runAmigo";
import { demoHouse } from "./demoHouse";

/** The program with the demo house, as `npm start` runs it. */
runAmigo(demoHouse);
