import type { Context as HonoContext, Hono } from "hono";
import type { Caller } from "../../callers/caller";
import type { Context } from "../../context";
import { noteOpening, sendBlob } from "../../shelf/sendFile";
import { fault } from "../answers";
import { answerProppatch } from "../propfind";
import { signInProgram } from "../signInProgram";
import { dav } from "../xml";
import { answerLock, answerUnlock } from "./locks";
import { answerPropfind, tagOf } from "./properties";
import { mayWrite, nodeAt, pathOf, type Node } from "./tree";
import { answerCopyOrMove, answerDelete, answerMkcol, answerPut, type Writing } from "./write";

/** What can be asked for (RFC 4918, sections 10.1 and 18): locks, too. */
const CLASSES = "1, 2, 3";
const METHODS = [
  ...["OPTIONS", "GET", "HEAD", "PROPFIND", "PROPPATCH", "PUT", "DELETE"],
  ...["MKCOL", "COPY", "MOVE", "LOCK", "UNLOCK"],
];
/** Known methods that nothing here can do. */
const OTHERS = ["POST", "ACL", "REPORT", "SEARCH", "MKCALENDAR"];

/** The shelves that an account looks after, as folders for any file manager (WebDAV). */
export function davShelfRoutes(app: Hono, context: Context): void {
  app.on([...METHODS, ...OTHERS], ["/shelves", "/shelves/*"], async (http) => {
    const answer = await answerFor(context, http);
    answer.headers.set("DAV", CLASSES);
    answer.headers.set("MS-Author-Via", "DAV");
    answer.headers.set("Cache-Control", "no-store");
    return answer;
  });
}

async function answerFor(context: Context, http: HonoContext): Promise<Response> {
  const { method } = http.req;
  const allow = { Allow: METHODS.join(", ") };
  if (method === "OPTIONS") return new Response(null, { status: 204, headers: allow });
  const caller = await signInProgram(http, context, "shelves");
  if (caller instanceof Response) return caller;
  if (OTHERS.includes(method)) return new Response(null, { status: 405, headers: allow });
  // As it was sent: what is written as %25 must be decoded once, not twice.
  const { pathname } = new URL(http.req.url);
  const node = await nodeAt(context.db, caller, pathname);
  if (node === undefined)
    return new Response(null, { status: ["PUT", "MKCOL", "LOCK"].includes(method) ? 409 : 404 });
  return (
    WRITES[method]?.({ context, caller, node, http }) ?? read(context, caller, node, pathname, http)
  );
}

const WRITES: Readonly<Record<string, (writing: Writing) => Promise<Response>>> = {
  PUT: answerPut,
  DELETE: answerDelete,
  MKCOL: answerMkcol,
  COPY: answerCopyOrMove,
  MOVE: answerCopyOrMove,
  LOCK: async ({ context, caller, node, http }) => {
    if (!mayWrite(node)) return fault(403, dav("need-privileges"));
    return answerLock(
      context.db,
      caller,
      node,
      { depth: http.req.header("Depth"), if: http.req.header("If") },
      await http.req.text(),
    );
  },
  UNLOCK: ({ context, caller, http }) =>
    answerUnlock(context.db, caller, http.req.header("Lock-Token")),
};

async function read(
  context: Context,
  caller: Caller,
  node: Node,
  path: string,
  http: HonoContext,
): Promise<Response> {
  if (node.at === "nothing") return new Response(null, { status: 404 });
  switch (http.req.method) {
    case "PROPFIND": {
      const answer = await answerPropfind(context, caller, node, {
        path,
        depth: http.req.header("Depth"),
        body: await http.req.text(),
      });
      return answer ?? new Response(null, { status: 400 });
    }
    case "PROPPATCH":
      return answerProppatch(pathOf(node), await http.req.text());
    default:
      return answerGet(context, caller, node, http);
  }
}

async function answerGet(
  context: Context,
  caller: Caller,
  node: Node,
  http: HonoContext,
): Promise<Response> {
  if (node.at !== "file") return new Response(null, { status: 405 });
  const { row } = node.file;
  const tag = tagOf(node.file);
  if (http.req.header("If-None-Match")?.includes(tag) === true)
    return new Response(null, { status: 304, headers: { ETag: tag } });
  if (row.blobId === null) return new Response(null, { status: 404 });
  if (node.shelf.as === "member") await noteOpening(context.db, row.thing.id, caller.email, http);
  const file = { id: row.blobId, name: row.name ?? "", size: row.size ?? 0 };
  const answer = sendBlob(context, http, file);
  answer.headers.set("ETag", tag);
  answer.headers.set("Last-Modified", (row.at ?? row.thing.madeAt).toUTCString());
  // A browser that is sent here must not treat the file as one of our pages.
  answer.headers.set("Content-Security-Policy", "default-src 'none'; sandbox");
  return answer;
}
