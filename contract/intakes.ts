import * as z from "zod";
import {
  INTAKE_COLUMNS,
  INTAKE_OUTCOMES,
  LONGEST_CELL,
  MOST_ROWS,
} from "@amigo/core/intake/intake";
import { ADDING } from "@amigo/core/lists/recipe";
import { endpoint, LONG_BODY } from "./endpoint";
import { wrong } from "./wrong";

const Times = z.object({
  days: z.array(z.number().int().min(1).max(7)).min(1, wrong("input.chooseAtLeastOneDay")),
  times: z
    .array(z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, wrong("input.writeATimeAs0730")))
    .min(1, wrong("input.giveAtLeastOneTime"))
    .max(12),
});

export const IntakeShape = z
  .object({
    name: z
      .string()
      .trim()
      .min(1, wrong("input.giveTheAdditionsSheetAName"))
      .max(80, wrong("input.theNameIsLongerThan80")),
    how: z.enum(ADDING),
    welcome: z.string().max(5000, wrong("input.theWelcomeIsLongerThan5000")),
    /** The lists that it is for; none for every open list. */
    lists: z.array(z.uuid()).max(500),
    times: Times.nullable(),
  })
  .meta({ id: "Intake" });

const People = z.array(z.object({ account: z.uuid(), role: z.enum(["lead", "helper"]) })).max(200);

const Cells = z.object(
  Object.fromEntries(
    INTAKE_COLUMNS.map((column) => [column, z.string().max(LONGEST_CELL)]),
  ) as Record<(typeof INTAKE_COLUMNS)[number], z.ZodString>,
);

export const IntakeRowShape = z
  .object({
    id: z.string(),
    number: z.number().int(),
    version: z.number().int(),
    cells: Cells,
    /** Who last wrote in it, and when. */
    by: z.string(),
    at: z.string(),
    faults: z.array(
      z.object({
        column: z.enum(INTAKE_COLUMNS),
        sentence: z.string(),
        proposal: z.string().optional(),
      }),
    ),
    approvedBy: z.string(),
    outcome: z.enum(INTAKE_OUTCOMES),
    sentence: z.string(),
    outcomeAt: z.string().nullable(),
    /** Whether the asker may approve it, by its list. */
    mayApprove: z.boolean(),
  })
  .meta({ id: "IntakeRow" });
export type IntakeRow = z.output<typeof IntakeRowShape>;

export const IntakeLine = z
  .object({
    id: z.string(),
    name: z.string(),
    by: z.string(),
    rows: z.number().int(),
    toApprove: z.number().int(),
    added: z.number().int(),
    when: z.string(),
  })
  .meta({ id: "IntakeLine" });
export type IntakeLine = z.output<typeof IntakeLine>;

const ListChoice = z.object({
  id: z.string(),
  title: z.string(),
  address: z.string(),
  name: z.string(),
  short: z.string(),
  cohort: z.string(),
  kind: z.enum(["guardians", "students", "staff", "other"]),
});

export const IntakePage = z
  .object({
    id: z.string(),
    name: z.string(),
    by: z.string(),
    version: z.number().int(),
    content: IntakeShape,
    people: z.array(
      z.object({ account: z.string(), name: z.string(), role: z.enum(["lead", "helper"]) }),
    ),
    /** The lists that its rows can name. */
    targets: z.array(ListChoice),
    rows: z.array(IntakeRowShape),
    /** When approved rows are carried out, in words. */
    when: z.string(),
    /** By which addresses are looked at while they are typed: the house's own domain, and how often each is used. */
    insideDomains: z.array(z.string()).readonly(),
    watching: z.boolean(),
    may: z.object({ change: z.boolean(), approve: z.boolean() }),
  })
  .meta({ id: "IntakePage" });
export type IntakePage = z.output<typeof IntakePage>;

const Id = z.object({ id: z.uuid() });

/** One cell as it is to be, and as its writer saw it before. A row that is not there yet is begun by its first cell. */
const CellChange = z.object({
  row: z.uuid(),
  column: z.enum(INTAKE_COLUMNS),
  was: z.string().max(LONGEST_CELL),
  is: z.string().max(LONGEST_CELL, `A cell takes ${LONGEST_CELL} signs.`),
});
export type CellChange = z.output<typeof CellChange>;

/** A cell that was not changed, as somebody else had changed it meanwhile, or the result of the row is settled. */
export const CellRefused = z
  .object({ row: z.string(), column: z.enum(INTAKE_COLUMNS), is: z.string(), sentence: z.string() })
  .meta({ id: "CellRefused" });
export type CellRefused = z.output<typeof CellRefused>;

export const getIntakes = endpoint({
  method: "get",
  path: "/api/intakes",
  summary: "The intakes that the asker fills, looks after or approves",
  who: "fill intakes",
  answer: z.object({ intakes: z.array(IntakeLine), mayMake: z.boolean() }),
});
export const getIntakeChoices = endpoint({
  method: "get",
  path: "/api/intakes/choices",
  summary: "The lists that an intake of the asker's can be for, and who can fill it",
  who: "make intakes",
  answer: z.object({
    lists: z.array(ListChoice),
    accounts: z.array(z.object({ id: z.string(), name: z.string() })),
    every: z.boolean(),
  }),
});
export const postIntake = endpoint({
  method: "post",
  path: "/api/intakes",
  summary: "Make an intake",
  who: "make intakes",
  most: LONG_BODY,
  body: z.object({ content: IntakeShape, people: People }),
  answer: z.object({ id: z.string() }),
});
export const getIntake = endpoint({
  method: "get",
  path: "/api/intakes/{id}",
  summary: "One intake with its rows",
  who: "fill intakes",
  params: Id,
  answer: IntakePage,
});
export const putIntake = endpoint({
  method: "put",
  path: "/api/intakes/{id}",
  summary: "Change what an intake is for and who fills it",
  who: "make intakes",
  params: Id,
  most: LONG_BODY,
  body: z.object({ content: IntakeShape, people: People, version: z.number().int() }),
  answer: z.object({ version: z.number().int() }),
});
export const postIntakeCells = endpoint({
  method: "post",
  path: "/api/intakes/{id}/cells",
  summary: "Write in cells of an intake; each says what it was",
  who: "fill intakes",
  params: Id,
  most: LONG_BODY,
  body: z.object({
    changes: z.array(CellChange).min(1).max(5000, wrong("input.pasteAtMost1000RowsAt")),
  }),
  answer: z.object({ changed: z.number().int(), refused: z.array(CellRefused) }),
});
export const postIntakeRemove = endpoint({
  method: "post",
  path: "/api/intakes/{id}/remove",
  summary:
    "Remove rows of a shared sheet or, with `back`, restore them; what was carried out stays",
  who: "fill intakes",
  params: Id,
  most: LONG_BODY,
  body: z.object({
    rows: z.array(z.uuid()).min(1).max(MOST_ROWS),
    back: z.boolean().default(false),
  }),
  answer: z.object({ changed: z.number().int() }),
});
export const postIntakeApproval = endpoint({
  method: "post",
  path: "/api/intakes/{id}/approval",
  summary: "Approve rows as they were seen, or undo that before they are carried out",
  who: "fill intakes",
  params: Id,
  most: LONG_BODY,
  body: z.object({
    rows: z
      .array(z.object({ id: z.uuid(), version: z.number().int() }))
      .min(1)
      .max(MOST_ROWS),
    approve: z.boolean(),
  }),
  answer: z.object({
    done: z.number().int(),
    refused: z.array(z.object({ row: z.string(), sentence: z.string() })),
  }),
});
export const getIntakeHistory = endpoint({
  method: "get",
  path: "/api/intakes/rows/{id}/history",
  summary: "What happened to a row of an intake, newest first",
  who: "fill intakes",
  params: Id,
  answer: z.array(
    z.object({
      at: z.string(),
      by: z.string(),
      what: z.string(),
      before: z.string(),
      after: z.string(),
    }),
  ),
});
export const putWatch = endpoint({
  method: "put",
  path: "/api/watch",
  summary:
    "Start or stop mails, at most one an hour, that tell when somebody was added to a list or a shared sheet",
  who: "fill intakes",
  body: z.object({ what: z.enum(["intake", "list"]), id: z.uuid(), watching: z.boolean() }),
  answer: z.object({ watching: z.boolean() }),
});
