import { html } from "hono/html";
import { t } from "../texts/t";

/** A page of few words behind a mailed link. */
export function linkPage(title: string, body: ReturnType<typeof html>) {
  return html`<!doctype html>
    <html lang="en">
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
