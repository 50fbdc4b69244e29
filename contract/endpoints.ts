import * as accounts from "./accounts";
import * as audiences from "./audiences";
import * as board from "./board";
import * as causes from "./causes";
import * as corrections from "./corrections";
import * as dates from "./dates";
import * as dateImport from "./dateImport";
import * as dateWatches from "./dateWatches";
import * as feeds from "./feeds";
import * as drafts from "./drafts";
import * as edits from "./edits";
import * as forms from "./forms";
import * as health from "./health";
import * as house from "./house";
import * as intakes from "./intakes";
import * as jobs from "./jobs";
import * as lists from "./lists";
import * as mail from "./mail";
import * as member from "./member";
import * as memberShelf from "./memberShelf";
import * as members from "./members";
import * as naming from "./naming";
import * as people from "./people";
import * as posts from "./posts";
import * as privateLists from "./private";
import * as push from "./push";
import * as readings from "./readings";
import * as requests from "./requests";
import * as retention from "./retention";
import * as rounds from "./rounds";
import * as seasons from "./seasons";
import * as shelf from "./shelf";
import * as sources from "./sources";
import * as staff from "./staff";
import * as tries from "./tries";
import * as trace from "./trace";
import * as twoStep from "./twoStep";
import * as uploads from "./uploads";
import type { Endpoint } from "./endpoint";

/** Every request of the API. */
export const ALL_ENDPOINTS: readonly Endpoint[] = [
  accounts,
  audiences,
  board,
  causes,
  corrections,
  dates,
  dateImport,
  dateWatches,
  feeds,
  drafts,
  edits,
  forms,
  health,
  house,
  intakes,
  jobs,
  lists,
  mail,
  member,
  memberShelf,
  members,
  naming,
  people,
  posts,
  privateLists,
  push,
  readings,
  requests,
  retention,
  rounds,
  seasons,
  shelf,
  sources,
  staff,
  trace,
  tries,
  twoStep,
  uploads,
].flatMap((part): Endpoint[] =>
  Object.values(part).filter(
    (value): value is Endpoint => typeof value === "object" && "path" in value && "method" in value,
  ),
);
