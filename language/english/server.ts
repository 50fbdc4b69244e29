import accounts from "../en/server/accounts.json";
import app from "../en/server/app.json";
import board from "../en/server/board.json";
import dates from "../en/server/dates.json";
import dav from "../en/server/dav.json";
import desk from "../en/server/desk.json";
import drafts from "../en/server/drafts.json";
import edits from "../en/server/edits.json";
import forms from "../en/server/forms.json";
import health from "../en/server/health.json";
import house from "../en/server/house.json";
import http from "../en/server/http.json";
import intakes from "../en/server/intakes.json";
import jobs from "../en/server/jobs.json";
import leave from "../en/server/leave.json";
import lists from "../en/server/lists.json";
import mail from "../en/server/mail.json";
import member from "../en/server/member.json";
import membership from "../en/server/membership.json";
import people from "../en/server/people.json";
import posting from "../en/server/posting.json";
import posts from "../en/server/posts.json";
import privateLists from "../en/server/privateLists.json";
import push from "../en/server/push.json";
import reach from "../en/server/reach.json";
import readings from "../en/server/readings.json";
import requests from "../en/server/requests.json";
import retention from "../en/server/retention.json";
import rounds from "../en/server/rounds.json";
import sandbox from "../en/server/sandbox.json";
import shared from "../en/server/shared.json";
import shelf from "../en/server/shelf.json";
import sources from "../en/server/sources.json";
import staff from "../en/server/staff.json";
import trace from "../en/server/trace.json";
import twoStep from "../en/server/twoStep.json";

/** All texts of the server in English, by its features: refusals, mails, pages and the journal. */
export const serverTexts = {
  accounts,
  app,
  board,
  dates,
  dav,
  desk,
  drafts,
  edits,
  forms,
  health,
  house,
  http,
  intakes,
  jobs,
  leave,
  lists,
  mail,
  member,
  membership,
  people,
  posting,
  posts,
  privateLists,
  push,
  reach,
  readings,
  requests,
  retention,
  rounds,
  sandbox,
  shared,
  shelf,
  sources,
  staff,
  trace,
  twoStep,
} as const;
