import type { Hono } from "hono";
import {
  deleteKept,
  getKept,
  getMembers,
  postKept,
  putMemberHowOften,
  postMembers,
  postPasted,
  postWelcomePreview,
} from "@amigo/contract/members";
import {
  findLists,
  getAllLists,
  getList,
  getListJournal,
  postAgree,
  putOwnShort,
} from "@amigo/contract/lists";
import { postTry, postTryAll } from "@amigo/contract/tries";
import type { Context } from "../context";
import { route } from "../http/route";
import { showMembers, showManualChanges } from "./showMembers";
import { searchLists } from "./findLists";
import { exportAllLists } from "./exportAllLists";
import { listAllLists } from "./listAllLists";
import { showList, showListJournal } from "./showList";
import {
  setAlwaysOrNever,
  changeHowOften,
  endManualChange,
  addPeople,
  confirmMembers,
} from "./changeMembers";
import { readPastedText } from "./readPastedText";
import { previewWelcome } from "./previewWelcome";
import { changeOwnShortName } from "./ownShortNames";
import { tryAddress, tryAddressEverywhere } from "./tryAddress";

export function listRoutes(app: Hono, context: Context): void {
  route(app, context, findLists, searchLists);
  route(app, context, getAllLists, listAllLists);
  route(app, context, getList, showList);
  route(app, context, getMembers, showMembers);
  route(app, context, getKept, showManualChanges);
  route(app, context, postKept, setAlwaysOrNever);
  route(app, context, putMemberHowOften, changeHowOften);
  route(app, context, deleteKept, endManualChange);
  route(app, context, postPasted, readPastedText);
  route(app, context, postMembers, addPeople);
  route(app, context, postWelcomePreview, previewWelcome);
  route(app, context, putOwnShort, changeOwnShortName);
  app.get("/api/lists/export/:format", (http) => exportAllLists(context, http));
  route(app, context, getListJournal, showListJournal);
  route(app, context, postTry, tryAddress);
  route(app, context, postTryAll, tryAddressEverywhere);
  route(app, context, postAgree, confirmMembers);
}
