import { html } from "hono/html";

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
