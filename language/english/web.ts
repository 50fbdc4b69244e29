import accounts from "../en/web/accounts.json";
import app from "../en/web/app.json";
import board from "../en/web/board.json";
import changes from "../en/web/changes.json";
import dates from "../en/web/dates.json";
import forms from "../en/web/forms.json";
import helper from "../en/web/helper.json";
import house from "../en/web/house.json";
import intakes from "../en/web/intakes.json";
import list from "../en/web/list.json";
import lists from "../en/web/lists.json";
import mail from "../en/web/mail.json";
import member from "../en/web/member.json";
import people from "../en/web/people.json";
import reach from "../en/web/reach.json";
import requests from "../en/web/requests.json";
import shelf from "../en/web/shelf.json";
import sources from "../en/web/sources.json";
import start from "../en/web/start.json";
import ui from "../en/web/ui.json";

/** All texts of the interface in English, by feature. */
export const webTexts = {
  accounts,
  app,
  board,
  changes,
  dates,
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
  shelf,
  sources,
  start,
  ui,
} as const;
