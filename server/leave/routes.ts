import { and, eq, isNull, sql } from "drizzle-orm";
import type { Hono } from "hono";
import { html } from "hono/html";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import { delivery, house, list, membership } from "../db/schema";

/**
 * The page behind a copy's leave link, and the one-click request of RFC 8058. Looking at the page
 * changes nothing; only the button, or the mail program's own, does.
 */
export function leaveRoutes(app: Hono, context: Context): void {
  const { db } = context;

  app.get("/leave/:token", async (http) => {
    const found = await copyOf(db, http.req.param("token"));
    if (found === undefined) return http.html(page("This link has run out", html`<p>It does not belong to any list now. Write to the office if you still get mail that you do not want.</p>`), 404);
    if (!found.member) return http.html(page(`You are not on ${found.title}`, html`<p>${found.address} gets no mail from this list.</p>`));
    return http.html(page(`Leave ${found.title}?`, html`<p><b>${found.address}</b> gets the mail of this list of ${found.house}. If you leave, no sheet will put it back on.</p><form method="post"><button>Leave this list</button></form>`));
  });

  app.post("/leave/:token", async (http) => {
    const token = http.req.param("token");
    const found = await copyOf(db, token);
    if (found === undefined) return http.html(page("This link has run out", html`<p>It does not belong to any list now.</p>`), 404);
    await leave(context, found);
    return http.html(page(`You have left ${found.title}`, html`<p>${found.address} gets no more mail from this list. The office of ${found.house} can put it back on.</p>`));
  });
}

interface Copy {
  listId: string;
  title: string;
  address: string;
  house: string;
  member: boolean;
}

async function copyOf(db: Database, token: string): Promise<Copy | undefined> {
  const [found] = await db.select({ listId: list.id, title: list.title, address: delivery.address, house: house.name, member: membership.id }).from(delivery)
    .innerJoin(list, eq(list.id, delivery.listId)).innerJoin(house, sql`true`)
    .leftJoin(membership, and(eq(membership.listId, delivery.listId), eq(membership.address, delivery.address), isNull(membership.validUntil))).where(eq(delivery.token, token));
  return found === undefined ? undefined : { ...found, member: found.member !== null };
}

/** Ends a membership by the member's own wish, which every later reading respects. */
async function leave({ desk }: Context, { listId, address, member }: Copy): Promise<void> {
  if (member) await desk.run("keepAddress", { actor: { id: null, name: address }, keep: { listId, address, side: "off", reason: "left by the link in a mail", lastDay: "" } });
}

function page(title: string, body: ReturnType<typeof html>) {
  return html`<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${title}</title><link rel="stylesheet" href="/leave.css"></head><body><main><h1>${title}</h1>${body}</main></body></html>`;
}
