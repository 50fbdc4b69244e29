import accounts from "./en/accounts.json";
import app from "./en/app.json";
import board from "./en/board.json";
import changes from "./en/changes.json";
import forms from "./en/forms.json";
import helper from "./en/helper.json";
import house from "./en/house.json";
import intakes from "./en/intakes.json";
import list from "./en/list.json";
import lists from "./en/lists.json";
import mail from "./en/mail.json";
import member from "./en/member.json";
import people from "./en/people.json";
import reach from "./en/reach.json";
import requests from "./en/requests.json";
import sources from "./en/sources.json";
import start from "./en/start.json";
import ui from "./en/ui.json";

/** All texts of the interface in English, by feature. Another language is another set of such files. */
export const english = {
  accounts,
  app,
  board,
  changes,
  forms,
  helper,
  house,
  intakes,
  list,
  lists,
  mail,
  member,
  people,
  reach,
  requests,
  sources,
  start,
  ui,
} as const;
