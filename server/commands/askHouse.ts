import type { z } from "zod";
import type { Endpoint } from "@amigo/contract/endpoint";
import { Problem } from "@amigo/contract/problem";

/** Asks a running Amigo over its API, as the account whose token it is. */
export class AskedHouse {
  constructor(
    private readonly url: string,
    private readonly token: string,
  ) {}

  /**
   * Sends one request as the contract has it.
   *
   * @throws Error with the house's own sentence where it refuses, or with what to do where it does not answer
   */
  async ask<E extends Endpoint>(
    endpoint: E,
    {
      params = {},
      query = {},
      body,
    }: {
      params?: Record<string, string | number>;
      query?: Record<string, string | number | undefined>;
      body?: z.input<NonNullable<E["body"]>> | FormData;
    } = {},
  ): Promise<z.output<E["answer"]>> {
    const path = endpoint.path.replace(/\{(\w+)\}/g, (_, name: string) =>
      encodeURIComponent(String(params[name] ?? "")),
    );
    const search = new URLSearchParams(
      Object.entries(query).flatMap(([name, value]) =>
        value === undefined ? [] : [[name, String(value)]],
      ),
    );
    let response: Response;
    try {
      response = await fetch(`${this.url}${path}${search.size > 0 ? `?${search}` : ""}`, {
        method: endpoint.method.toUpperCase(),
        headers: {
          Authorization: `Bearer ${this.token}`,
          ...(body === undefined || body instanceof FormData
            ? {}
            : { "Content-Type": "application/json" }),
        },
        ...(body === undefined
          ? {}
          : { body: body instanceof FormData ? body : JSON.stringify(body) }),
      });
    } catch {
      throw new Error(
        `No Amigo answers at ${this.url}. Start it, or set AMIGO_URL to where it is.`,
      );
    }
    const answer: unknown = await response.json().catch(() => undefined);
    if (response.ok) return endpoint.answer.parse(answer) as z.output<E["answer"]>;
    const problem = Problem.safeParse(answer);
    throw new Error(
      response.status === 401
        ? "The token was not taken. Make one in Settings and set AMIGO_TOKEN to it."
        : (problem.data?.detail ?? `Amigo answered ${response.status}.`),
    );
  }
}

/**
 * The house that the environment names: `AMIGO_URL` (else this machine's) and `AMIGO_TOKEN`.
 *
 * @throws Error that says what to set where there is no token
 */
export function houseFrom(environment: Record<string, string | undefined>): AskedHouse {
  const token = environment.AMIGO_TOKEN ?? "";
  if (token === "")
    throw new Error(
      "This asks a running Amigo. Make an API token in its Settings and set AMIGO_TOKEN to it.",
    );
  return new AskedHouse(
    (environment.AMIGO_URL ?? `http://localhost:${environment.AMIGO_PORT ?? "8080"}`).replace(
      /\/+$/,
      "",
    ),
    token,
  );
}
