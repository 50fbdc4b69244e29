import type { ShelfDetails, ShelfThing } from "@amigo/contract/shelf";
import { dayFromNow, HEAD, startDatesHouse, student, type DatesHouse } from "./datesHouse";
import type { Client } from "./testHouse";

export const OAK = student(1, "Oak", "Ida", "Mill Loft", "Trapeze Two");
export const ELM = student(2, "Elm", "Bram", "Mill Loft", "Trapeze Two");
export const PINE = student(3, "Pine", "Tove", "Big Barn", "Juggling One");

type Body = Uint8Array<ArrayBuffer> | string;

/** A house of three families in two classes, with what is asked of its shelves. */
export interface ShelfHouse extends DatesHouse {
  trapeze: string;
  juggling: string;
  /** Opens a member's page by its mailed link, once. */
  memberOf(address: string): Promise<Client>;
  /** Sends a request with a body of octets. */
  raw(
    method: string,
    path: string,
    client: Client | undefined,
    body?: Body,
    headers?: Record<string, string>,
  ): Promise<Response>;
  /** Puts a file on a shelf; returns its id, or the status where it is refused. */
  put(name: string, body?: Body, list?: string, client?: Client): Promise<string>;
  open(id: string, client: Client | undefined, headers?: Record<string, string>): Promise<Response>;
  shelf(list?: string, client?: Client): Promise<ShelfThing[]>;
  thingOf(id: string): Promise<ShelfThing | undefined>;
  detailsOf(id: string, client?: Client): Promise<ShelfDetails>;
  /** Makes Ravi the coach of Trapeze Two. */
  coachTrapeze(): Promise<void>;
  /** Changes some of what is known of a thing; returns the status. */
  change(id: string, more: object, client?: Client): Promise<number>;
}

/** Starts a house with a few families and what tests of its shelves ask of it. */
export async function startShelfHouse(settings: Record<string, string> = {}): Promise<ShelfHouse> {
  const house = await startDatesHouse([OAK, ELM, PINE], dayFromNow(9), settings);
  const members = new Map<string, Client>();
  const trapeze = house.listOf(/Trapeze Two.*guardians/i);
  const juggling = house.listOf(/Juggling One.*guardians/i);
  const { url } = house.house;

  const raw: ShelfHouse["raw"] = (method, path, client, body, headers = {}) =>
    fetch(`${url}${path}`, {
      method,
      redirect: "manual",
      headers: { Cookie: client?.cookie ?? "", Origin: url, ...headers },
      ...(body === undefined ? {} : { body }),
    });
  const shelf: ShelfHouse["shelf"] = async (list = trapeze, client = house.juno) =>
    (await client.ask<{ things: ShelfThing[] }>("GET", `/api/lists/${list}/shelf`)).body.things;
  const thingOf: ShelfHouse["thingOf"] = async (id) =>
    (await shelf()).find((thing) => thing.id === id);
  return {
    ...house,
    trapeze,
    juggling,
    raw,
    shelf,
    thingOf,
    memberOf: async (address) => {
      const known = members.get(address);
      if (known !== undefined) return known;
      const client = house.house.client();
      await client.ask("POST", "/api/member/link", { address });
      const letter = await house.house.mailTo(address, "Open your page");
      const [, token = ""] = /\/member\/([\w-]+)/.exec(letter) ?? [];
      await client.ask("POST", "/api/member/enter", { token });
      members.set(address, client);
      return client;
    },
    put: async (name, body = `This is ${name}`, list = trapeze, client = house.juno) => {
      const path = `/api/lists/${list}/shelf/files?name=${encodeURIComponent(name)}`;
      const response = await raw("POST", path, client, body);
      const answer = (await response.json()) as { id?: string };
      return response.status === 200 ? (answer.id ?? "") : `${response.status}`;
    },
    open: (id, client, headers = {}) =>
      raw("GET", `/api/member/shelf/${id}/files/open`, client, undefined, headers),
    detailsOf: async (id, client = house.juno) =>
      (await client.ask<ShelfDetails>("GET", `/api/shelf/${id}`)).body,
    coachTrapeze: async () => {
      const coached = (row: string): string => row.replace("Two,,", "Two,Ravi Lindqvist,");
      const rows = [HEAD, coached(OAK), coached(ELM), PINE];
      await house.house.readLines(house.juno, rows, { id: house.source });
      await house.house.step(house.juno);
    },
    change: async (id, more, client = house.juno) => {
      const thing = await thingOf(id);
      const { title = "", folder = "", untilDay = "", changes = 0, membersMay } = thing ?? {};
      const body = { title, folder, untilDay, changes, membersMay, lists: [trapeze], ...more };
      return (await client.ask("PUT", `/api/shelf/${id}`, body)).status;
    },
  };
}
