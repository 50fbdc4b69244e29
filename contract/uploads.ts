import * as z from "zod";
import { endpoint } from "./endpoint";
import { SHELF_FILE } from "./shelf";

/** The most that is sent of a file in one request, in octets. */
export const PIECE = 64 * 1024 * 1024;

const Id = z.object({ id: z.uuid() });
const Begin = z.object({ size: z.number().int().min(0).max(SHELF_FILE) });
/** How many octets have come: where to go on. */
const Received = z.object({ id: z.string(), received: z.number().int() });
const At = z.object({
  /** Where in the file the piece begins, in octets: what has come before. */
  at: z.coerce.number().int().min(0),
});

export const postUpload = endpoint({
  method: "post",
  path: "/api/uploads",
  summary: "Begin to send a file piece by piece; it is kept for a day until it is used",
  who: "write to lists",
  body: Begin,
  answer: Received,
});
export const getUpload = endpoint({
  method: "get",
  path: "/api/uploads/{id}",
  summary: "How much of a file has come, to go on from there",
  who: "write to lists",
  params: Id,
  answer: Received,
});
export const putPiece = endpoint({
  method: "put",
  path: "/api/uploads/{id}",
  summary: "Send the next piece of a file; what came of a broken one is kept in whole megabytes",
  who: "write to lists",
  params: Id,
  query: At,
  bodyType: "octets",
  most: PIECE,
  answer: Received,
});
export const postMemberUpload = endpoint({
  method: "post",
  path: "/api/member/uploads",
  summary: "Begin to send a file piece by piece; it is kept for a day until it is used",
  who: "member",
  body: Begin,
  answer: Received,
});
export const getMemberUpload = endpoint({
  method: "get",
  path: "/api/member/uploads/{id}",
  summary: "How much of a file has come, to go on from there",
  who: "member",
  params: Id,
  answer: Received,
});
export const putMemberPiece = endpoint({
  method: "put",
  path: "/api/member/uploads/{id}",
  summary: "Send the next piece of a file; what came of a broken one is kept in whole megabytes",
  who: "member",
  params: Id,
  query: At,
  bodyType: "octets",
  most: PIECE,
  answer: Received,
});
