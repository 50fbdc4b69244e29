import type { Hono } from "hono";
import {
  deletePrivateList,
  getPersonHits,
  getPrivateList,
  getPrivateLists,
  postPrivateList,
  putPrivateList,
} from "@amigo/contract/private";
import type { Context } from "../context";
import { route } from "../http/route";
import { findPeople } from "./findPeople";
import {
  listPrivateLists,
  showPrivateList,
  makePrivateList,
  changePrivateList,
  deletePrivateListOf,
} from "./privateLists";

/** Lists that only their owner knows of. Every request looks for the asker's own alone; what belongs to another is not there. */
export function privateRoutes(app: Hono, context: Context): void {
  route(app, context, getPrivateLists, listPrivateLists);
  route(app, context, getPrivateList, showPrivateList);
  route(app, context, postPrivateList, makePrivateList);
  route(app, context, putPrivateList, changePrivateList);
  route(app, context, deletePrivateList, deletePrivateListOf);
  route(app, context, getPersonHits, findPeople);
}
