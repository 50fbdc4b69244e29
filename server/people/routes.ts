import type { Hono } from "hono";
import {
  deleteByHand,
  getByHand,
  getLeft,
  getPeople,
  postForget,
  getPerson,
  getQuestions,
  postAnswer,
  postJoin,
  postPart,
  putAddresses,
} from "@amigo/contract/people";
import type { Context } from "../context";
import { route } from "../http/route";
import { showPeople, showFormerMembers, showPerson } from "./showPeople";
import { removePerson } from "./removePerson";
import { exportPerson } from "./exportPerson";
import { chooseAddresses, mergePeople, splitPerson } from "./changePeople";
import { endManualChange, listManualChanges } from "./manualChanges";
import { listQuestions, answerOne } from "./showQuestions";

export function peopleRoutes(app: Hono, context: Context): void {
  route(app, context, getPeople, showPeople);
  route(app, context, getLeft, showFormerMembers);
  route(app, context, postForget, removePerson);
  app.get("/api/people/:id/record", (http) => exportPerson(context, http));
  route(app, context, getPerson, showPerson);
  route(app, context, putAddresses, chooseAddresses);
  route(app, context, postJoin, mergePeople);
  route(app, context, postPart, splitPerson);
  route(app, context, deleteByHand, endManualChange);
  route(app, context, getByHand, listManualChanges);
  route(app, context, getQuestions, listQuestions);
  route(app, context, postAnswer, answerOne);
}
