import { html } from "hono/html";
import { isRightToLeft } from "@amigo/language/families";
import { speechHere } from "@amigo/language/texts";
import { t } from "../texts/t";

/** A page of few words behind a mailed link. */
export function linkPage(title: string, body: ReturnType<typeof html>) {
  const { language } = speechHere();
  return html`<!doctype html>
    <html lang="${language}" dir="${isRightToLeft(language) ? "rtl" : "ltr"}">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width" />
        <title>${title}</title>
        <link rel="stylesheet" href="/leave.css" />
      </head>
      <body>
        <main>
          <h1>${title}</h1>
          ${body}
        </main>
      </body>
    </html>`;
}

/** What is said to whoever wants to leave a list that is closed. */
export function closedPage(title: string) {
  return linkPage(t("leave.isClosed", { title }), html`<p>${t("leave.itSendsNoMoreMail")}</p>`);
}
