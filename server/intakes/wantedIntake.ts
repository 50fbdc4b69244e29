import type { z } from "zod";
import { type postIntake } from "@amigo/contract/intakes";

export type Wanted = z.output<typeof postIntake.body & object>;
