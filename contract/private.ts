import * as z from "zod";
import { endpoint, LONG_BODY } from "./endpoint";
import { wrong } from "./wrong";

export const PrivateListLine = z
  .object({ id: z.string(), name: z.string(), people: z.number().int(), gone: z.number().int() })
  .meta({ id: "PrivateListLine" });
export type PrivateListLine = z.output<typeof PrivateListLine>;

export const PrivateListPage = PrivateListLine.extend({
  /** Whether mail for a child on it goes to the guardians, as is usual, or to the child. */
  children: z.enum(["guardians", "themselves"]),
  persons: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      detail: z.string(),
      addresses: z.array(z.string()),
      gone: z.boolean(),
    }),
  ),
}).meta({ id: "PrivateListPage" });
export type PrivateListPage = z.output<typeof PrivateListPage>;

const Id = z.object({ id: z.uuid() });
const Name = z.string().trim().min(1, wrong("input.giveTheListAName")).max(80);

export const getPrivateLists = endpoint({
  method: "get",
  path: "/api/private-lists",
  summary: "The asker's own private lists",
  who: "keep private lists",
  answer: z.array(PrivateListLine),
});
export const getPrivateList = endpoint({
  method: "get",
  path: "/api/private-lists/{id}",
  summary: "One private list of the asker's",
  who: "keep private lists",
  params: Id,
  answer: PrivateListPage,
});
export const postPrivateList = endpoint({
  method: "post",
  path: "/api/private-lists",
  summary: "Make a private list",
  who: "keep private lists",
  most: LONG_BODY,
  body: z.object({ name: Name, people: z.array(z.string().max(200)).max(2000).default([]) }),
  answer: z.object({ id: z.string() }),
});
export const putPrivateList = endpoint({
  method: "put",
  path: "/api/private-lists/{id}",
  summary: "Rename a private list, put people on it or take them off",
  who: "keep private lists",
  params: Id,
  most: LONG_BODY,
  body: z.object({
    name: Name.optional(),
    children: z.enum(["guardians", "themselves"]).optional(),
    add: z.array(z.string().max(200)).max(2000).default([]),
    remove: z.array(z.string().max(200)).max(2000).default([]),
  }),
  answer: PrivateListPage,
});
export const deletePrivateList = endpoint({
  method: "delete",
  path: "/api/private-lists/{id}",
  summary: "Delete a private list",
  who: "keep private lists",
  params: Id,
  answer: z.object({ done: z.literal(true) }),
});
export const getPersonHits = endpoint({
  method: "get",
  path: "/api/person-hits",
  summary:
    "People whom the asker may write to, by any part of their names or by number; several at once on lines of their own",
  who: "keep private lists",
  query: z.object({ q: z.string().max(4000) }),
  answer: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      detail: z.string(),
      reached: z.boolean(),
      /** Whether it is a child, so that the guardians are written to. */
      child: z.boolean(),
      addresses: z.array(z.string()),
    }),
  ),
});
