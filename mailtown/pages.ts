import { html, raw } from "hono/html";
import type { HtmlEscapedString } from "hono/utils/html";
import { BEHAVIOURS, type Mailboxes, type OpenedLetter } from "./mailboxes";

type Html = HtmlEscapedString | Promise<HtmlEscapedString>;

const STYLE = `body{font:16px/1.5 Georgia,serif;background:#f4efe4;color:#2b2418;margin:0}header{background:#5b4a2f;color:#fbf6ea;padding:10px 20px}header a{color:inherit;text-decoration:none;font-weight:bold}header span{opacity:.8;margin-left:12px;font-size:14px}main{max-width:860px;margin:20px auto;padding:0 20px}table{border-collapse:collapse;width:100%;background:#fffdf7}td,th{border-bottom:1px solid #e2d8c3;padding:6px 10px;text-align:left;vertical-align:top}th{font-size:13px;color:#6d5d42}a{color:#7a3b12}pre{white-space:pre-wrap;overflow-wrap:anywhere;background:#fffdf7;border:1px solid #e2d8c3;padding:12px;font:14px/1.5 monospace}pre.text{font:16px/1.5 Georgia,serif}input,textarea,select,button{font:inherit;padding:5px 8px;border:1px solid #b9a783;background:#fff}textarea{width:100%;min-height:110px;box-sizing:border-box}button{background:#5b4a2f;color:#fff;border-color:#5b4a2f;cursor:pointer}form{margin:10px 0}label{display:block;margin:8px 0 2px;font-size:14px}dt{font-size:13px;color:#6d5d42}dd{margin:0 0 6px}`;

function page(title: string, body: Html): Html {
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width" />
        <title>${title} · Mailtown</title>
        <style>
          ${raw(STYLE)}
        </style>
      </head>
      <body>
        <header>
          <a href="/">Mailtown</a
          ><span
            >a made-up outside world for Amigo's demo house; nothing here leaves this machine</span
          >
        </header>
        <main>${body}</main>
      </body>
    </html>`;
}

export function townPage(boxes: Mailboxes, q: string): Html {
  const words = q.toLowerCase();
  const shown = boxes
    .all()
    .filter(({ address, name }) => `${address} ${name}`.toLowerCase().includes(words));
  return page(
    "Mailboxes",
    html`<h1>Mailboxes</h1>
      <form>
        <input name="q" value="${q}" placeholder="name or address" aria-label="Name or address" />
        <button>Find</button>
      </form>
      <table>
        <tr>
          <th>Mailbox</th>
          <th>Who</th>
          <th>Letters</th>
          <th>It</th>
        </tr>
        ${shown.slice(0, 300).map(
          (box) =>
            html`<tr>
              <td><a href="/mailbox/${encodeURIComponent(box.address)}">${box.address}</a></td>
              <td>${box.name}</td>
              <td>${box.letters}</td>
              <td>${BEHAVIOURS[box.behaviour]}</td>
            </tr>`,
        )}
      </table>
      <p>${shown.length} mailboxes${shown.length > 300 ? ", the first 300 shown" : ""}.</p>`,
  );
}

export function mailboxPage(
  boxes: Mailboxes,
  address: string,
  letters: readonly OpenedLetter[],
  told: string,
): Html {
  const behaviour = boxes.behaviourOf(address);
  return page(
    address,
    html`<h1>${address}</h1>
      <p>${boxes.nameOf(address)}</p>
      ${told === "" ? "" : html`<p role="status"><b>${told}</b></p>`}
      <form method="post" action="/mailbox/${encodeURIComponent(address)}/behaviour">
        <label for="b">This mailbox</label
        ><select id="b" name="behaviour">
          ${Object.entries(BEHAVIOURS).map(([id, words]) => html`<option value="${id}" ${id === behaviour ? raw("selected") : ""}>${words}</option>`)}
        </select>
        <button>Keep</button>
      </form>
      <h2>Letters</h2>
      ${
        letters.length === 0
          ? html`<p>None yet.</p>`
          : html`<table>
              <tr>
                <th>From</th>
                <th>Subject</th>
                <th>Came</th>
              </tr>
              ${letters.map(
                (letter) =>
                  html`<tr>
                    <td>${letter.from}</td>
                    <td>
                      <a href="/letter/${letter.id}"
                        >${letter.subject === "" ? "(no subject)" : letter.subject}</a
                      >
                    </td>
                    <td>${letter.at.slice(0, 19).replace("T", " ")}</td>
                  </tr>`,
              )}
            </table>`
      }
      <h2>Write a mail from here</h2>
      ${writeForm(address, "", "", "")}`,
  );
}

export function letterPage(mailbox: string, letter: OpenedLetter): Html {
  return page(
    letter.subject,
    html`<p><a href="/mailbox/${encodeURIComponent(mailbox)}">${mailbox}</a></p>
      <h1>${letter.subject === "" ? "(no subject)" : letter.subject}</h1>
      <dl>
        <dt>From</dt>
        <dd>${letter.from}</dd>
        <dt>To</dt>
        <dd>${letter.to}</dd>
      </dl>
      <pre class="text">${linked(letter.text)}</pre>
      <h2>Answer</h2>
      ${writeForm(mailbox, letter.replyTo, /^re:/i.test(letter.subject) ? letter.subject : `Re: ${letter.subject}`, letter.messageId)}
      <h2>Pass it on</h2>
      <form method="post" action="/letter/${letter.id}/forward">
        <label for="fwd">To</label><input id="fwd" name="to" required size="50" />
        <button>Forward</button>
      </form>
      <h2>Header</h2>
      <pre>${letter.headers}</pre>
      <p><a href="/letter/${letter.id}/raw">The whole letter as it came</a></p>`,
  );
}

/** A text whose links to this machine can be clicked; everything else in it stays text. */
function linked(text: string): (Html | string)[] {
  return text
    .split(/(http:\/\/localhost:\d+\/[\w/?=&.-]*)/)
    .map((piece, index) =>
      index % 2 === 1
        ? html`<a href="${piece}" target="_blank" rel="noreferrer">${piece}</a>`
        : piece,
    );
}

function writeForm(mailbox: string, to: string, subject: string, inReplyTo: string): Html {
  return html`<form method="post" action="/mailbox/${encodeURIComponent(mailbox)}/write">
    <input type="hidden" name="inReplyTo" value="${inReplyTo}" /><label for="to">To</label
    ><input id="to" name="to" value="${to}" required size="50" /><label for="subject">Subject</label
    ><input id="subject" name="subject" value="${subject}" size="50" /><label for="from"
      >In whose name, if in another's (a forged From line)</label
    ><input id="from" name="from" size="50" placeholder="juno.abara@copperwheel.example" /><label
      for="text"
      >Text</label
    ><textarea id="text" name="text"></textarea>
    <p><button>Send</button></p>
  </form>`;
}
