import { createServer } from "node:http";
import type { MiddlewareHandler } from "hono";
import { routePath } from "hono/route";
import { collectDefaultMetrics, Gauge, Histogram, Registry } from "prom-client";
import type { Context } from "../context";
import { describeFailure } from "../describeFailure";
import { listJobRuns } from "../jobs/jobQueries";
import { relayAway } from "../relay/relayAway";
import { countBounces, countChanges, countCopies } from "./queries";

type Watched = Pick<Context, "db" | "connection" | "settings" | "log" | "events">;

/** A number that is worked out when the metrics are asked for: its labels' values, and itself. */
type Sample = [labels: Record<string, string>, value: number];

/** A metric of the house or of this process. To add one, add a line. */
interface Measure {
  name: string;
  help: string;
  labels: readonly string[];
  read(context: Watched): Sample[] | Promise<Sample[]>;
}

const MEASURES: readonly Measure[] = [
  {
    name: "amigo_pool_connections",
    help: "Connections of this process to the database, by state",
    labels: ["state"],
    read: ({ connection: { pool } }) => [
      [{ state: "open" }, pool.totalCount],
      [{ state: "idle" }, pool.idleCount],
      [{ state: "waited_for" }, pool.waitingCount],
    ],
  },
  {
    name: "amigo_events_heard",
    help: "Whether this process hears what others change",
    labels: [],
    read: ({ events }) => [[{}, events.isHearing() ? 1 : 0]],
  },
  {
    name: "amigo_copies",
    help: "Copies by state: all that wait, and the others of the last day",
    labels: ["state"],
    read: async ({ db }) => (await countCopies(db)).map(({ state, copies }) => [{ state }, copies]),
  },
  {
    name: "amigo_oldest_copy_seconds",
    help: "For how long the oldest copy of a state has waited",
    labels: ["state"],
    read: async ({ db }) =>
      (await countCopies(db))
        .filter(({ oldest }) => oldest > 0)
        .map(({ state, oldest }) => [{ state }, oldest]),
  },
  {
    name: "amigo_bounces",
    help: "What came back in the last day, by kind",
    labels: ["kind"],
    read: async ({ db }) =>
      (await countBounces(db)).map(({ sort, bounces }) => [{ kind: sort }, bounces]),
  },
  {
    name: "amigo_changes",
    help: "Imports and rounds of the last day, and sources that fail",
    labels: ["of"],
    read: async ({ db }) =>
      Object.entries((await countChanges(db)) ?? {}).map(([of, count]) => [{ of }, count]),
  },
  {
    name: "amigo_relay_away",
    help: "Whether the relay can't be reached",
    labels: [],
    read: async ({ db, settings }) => [[{}, (await relayAway(db, settings)) === null ? 0 : 1]],
  },
  {
    name: "amigo_job_failed",
    help: "Whether a job failed the last time",
    labels: ["job"],
    read: async ({ db }) =>
      (await listJobRuns(db)).map(({ name, failure }) => [{ job: name }, failure === "" ? 0 : 1]),
  },
  {
    name: "amigo_job_ended_seconds",
    help: "When a job ended last, in seconds since 1970",
    labels: ["job"],
    read: async ({ db }) =>
      (await listJobRuns(db)).flatMap(({ name, endedAt }): Sample[] =>
        endedAt === null ? [] : [[{ job: name }, endedAt.getTime() / 1000]],
      ),
  },
];

/** What this process counts of itself and, when it is asked, of the house (OpenMetrics). */
export class Metrics {
  readonly registry = new Registry<typeof Registry.OPENMETRICS_CONTENT_TYPE>();
  private readonly requests: Histogram;

  constructor(context: Watched) {
    this.registry.setContentType(Registry.OPENMETRICS_CONTENT_TYPE);
    const registers = [this.registry as unknown as Registry];
    // The library's own: processor, memory, event loop, garbage collection.
    collectDefaultMetrics({ register: this.registry as unknown as Registry });
    this.requests = new Histogram({
      name: "amigo_http_request_seconds",
      help: "How long requests took, by route",
      labelNames: ["method", "route", "status"],
      buckets: [0.01, 0.03, 0.1, 0.3, 1, 3, 10],
      registers,
    });
    for (const { name, help, labels, read } of MEASURES)
      new Gauge({
        ...{ name, help, labelNames: [...labels], registers },
        // One that can't be worked out is left out, and keeps no other back.
        async collect() {
          this.reset();
          try {
            for (const [of, value] of await read(context)) this.set(of, value);
          } catch (failure) {
            context.log.warn(
              { failure: describeFailure(failure), metric: name },
              "a metric could not be worked out",
            );
          }
        },
      });
  }

  /** Counts requests and how long they take. */
  readonly time: MiddlewareHandler = async (http, next) => {
    const end = this.requests.startTimer({ method: http.req.method });
    await next();
    end({ route: routePath(http), status: String(http.res.status) });
  };
}

/** Serves the metrics at a port of their own, which is for whatever watches the machine. Returns what ends that. */
export function serveMetrics(
  { registry }: Metrics,
  { port, host }: { port: number; host: string },
): Promise<() => Promise<void>> {
  const server = createServer((request, response) => {
    if (request.method !== "GET" || request.url !== "/metrics") {
      response.writeHead(404).end();
      return;
    }
    registry.metrics().then(
      (text) => response.writeHead(200, { "Content-Type": registry.contentType }).end(text),
      () => response.writeHead(500).end(),
    );
  });
  return new Promise((resolve, reject) => {
    server.once("error", (failure: NodeJS.ErrnoException) =>
      reject(
        failure.code === "EADDRINUSE"
          ? new Error(
              `Port ${port} is taken by another program. End that program, or set AMIGO_METRICS_PORT to a free port.`,
            )
          : failure,
      ),
    );
    server.listen(port, host, () =>
      resolve(async () => {
        server.close();
        server.closeAllConnections();
      }),
    );
  });
}
