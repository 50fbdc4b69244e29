import type { Hono } from "hono";
import {
  getIntake,
  getIntakeChoices,
  getIntakeHistory,
  getIntakes,
  postIntake,
  postIntakeApproval,
  postIntakeCells,
  postIntakeRemove,
  putIntake,
  putWatch,
} from "@amigo/contract/intakes";
import type { Context } from "../context";
import { route } from "../http/route";
import { showIntakes, showIntake } from "./showIntakes";
import { listIntakeChoices } from "./intakeChoices";
import { makeIntake } from "./makeIntake";
import { changeIntake } from "./changeIntake";
import { changeCells, deleteRows, decideRows } from "./changeRows";
import { showIntakeHistory } from "./showIntakeHistory";
import { watchList } from "./watchLists";

/** Intakes: making them, filling them together, approving rows, and watching. */
export function intakeRoutes(app: Hono, context: Context): void {
  route(app, context, getIntakes, showIntakes);
  route(app, context, getIntakeChoices, listIntakeChoices);
  route(app, context, postIntake, makeIntake);
  route(app, context, getIntake, showIntake);
  route(app, context, putIntake, changeIntake);
  route(app, context, postIntakeCells, changeCells);
  route(app, context, postIntakeRemove, deleteRows);
  route(app, context, postIntakeApproval, decideRows);
  route(app, context, getIntakeHistory, showIntakeHistory);
  route(app, context, putWatch, watchList);
}
