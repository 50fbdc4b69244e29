import * as accounts from "./accounts";
import * as board from "./board";
import * as drafts from "./drafts";
import * as edits from "./edits";
import type { Endpoint } from "./endpoint";
import * as forms from "./forms";
import * as house from "./house";
import * as intakes from "./intakes";
import * as lists from "./lists";
import * as mail from "./mail";
import * as member from "./member";
import * as people from "./people";
import * as posts from "./posts";
import * as privateLists from "./private";
import * as requests from "./requests";
import * as retention from "./retention";
import * as rounds from "./rounds";
import * as staff from "./staff";
import * as twoStep from "./twoStep";
import * as sources from "./sources";

/** Every request of the API. */
export const ALL_ENDPOINTS: readonly Endpoint[] = [
  accounts,
  board,
  drafts,
  edits,
  forms,
  house,
  intakes,
  lists,
  mail,
  member,
  people,
  posts,
  privateLists,
  requests,
  retention,
  rounds,
  sources,
  staff,
  twoStep,
].flatMap((part): Endpoint[] =>
  Object.values(part).filter(
    (value): value is Endpoint => typeof value === "object" && "path" in value && "method" in value,
  ),
);
