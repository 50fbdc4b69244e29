import { X509Certificate } from "node:crypto";
import { readFileSync } from "node:fs";
import { statfs } from "node:fs/promises";
import type { z } from "zod";
import type { HealthDetail } from "@amigo/contract/health";
import { RECURRING_JOBS, JOB_NAMES } from "@amigo/core/jobs/recurring";
import { say } from "@amigo/language/say";
import type { Context } from "../context";
import { describeFailure } from "../describeFailure";
import { loadHouse } from "../db/houseQueries";
import { listJobRuns } from "../jobs/jobQueries";
import { relayAway } from "../relay/relayAway";
import { t } from "../texts/t";
import { countCopies } from "./queries";
import { findDatabaseState, findLastImport } from "./healthQueries";

type Detail = z.output<typeof HealthDetail>;
type Found = Omit<Detail, "what">;

const DAY = 24 * 60 * 60 * 1000;
/** Which share of a disk must be free, so that nothing is said of it, and below which it is pressing. */
const FREE = { enough: 0.1, least: 0.03 };
/** From which age on copies that wait are worth a look, in seconds: most servers that ask to wait take them within this time. */
const OLD_COPY = 4 * 60 * 60;
/** How old the last backup may be, and how soon before its end a certificate is told of, in days. */
const BACKUP_DAYS = 2;
const CERTIFICATE_DAYS = 21;
/** How far apart the clocks of this machine and the database may be, in milliseconds: claims and sign-ins hold for minutes. */
const CLOCKS = 5000;

/** One thing that is looked at. To add one, add a line. */
interface Check {
  what: () => string;
  /** What was found; nothing where it doesn't concern this house. */
  look(context: Context, now: Date): Promise<Found | undefined>;
}

const CHECKS: readonly Check[] = [
  {
    what: () => t("health.database"),
    look: async ({ db, settings }) => {
      const asked = Date.now();
      const { version, octets } = await findDatabaseState(db);
      const took = Date.now() - asked;
      const words = t("health.databaseAnswers", { version, took, size: sizeOf(octets) });
      return { state: "ok", words: `${words} ${encrypted(settings.databaseUrl)}`.trim(), at: null };
    },
  },
  {
    what: () => t("health.clock"),
    look: async ({ db }) => {
      const before = Date.now();
      const { now } = await findDatabaseState(db);
      // The database looked at its clock at some moment between asking and being answered.
      const apart = Math.max(before - now, now - Date.now(), 0);
      return apart > CLOCKS
        ? {
            state: "warning",
            words: t("health.clocksApart", { seconds: Math.round(apart / 1000) }),
            at: null,
          }
        : { state: "ok", words: t("health.clocksAgree"), at: null };
    },
  },
  {
    what: () => t("health.relay"),
    look: async ({ db, settings }) => {
      const away = await relayAway(db, settings);
      return away === null
        ? {
            state: "ok",
            words: t("health.relayAnswers", { relay: new URL(settings.relay).host }),
            at: null,
          }
        : { state: "failing", words: away.words, at: away.since };
    },
  },
  {
    what: () => t("health.waitingMail"),
    look: async ({ db }) => {
      const waiting = (await countCopies(db)).filter(({ oldest }) => oldest > 0);
      const copies = waiting.reduce((sum, { copies: some }) => sum + some, 0);
      const oldest = Math.max(0, ...waiting.map((row) => row.oldest));
      const pausedBy = (await loadHouse(db))?.queuePausedBy ?? "";
      if (pausedBy !== "")
        return {
          state: "warning",
          words: t("health.sendingPaused", { by: pausedBy, copies }),
          at: null,
        };
      if (copies === 0) return { state: "ok", words: t("health.noMailWaits"), at: null };
      return {
        state: oldest > OLD_COPY ? "warning" : "ok",
        words: t("health.mailWaits", { copies, minutes: Math.ceil(oldest / 60) }),
        at: null,
      };
    },
  },
  {
    what: () => t("health.disk"),
    look: async ({ settings }) => {
      const places = [settings.data, settings.backups?.folder].filter((one) => one !== undefined);
      const disks = await Promise.all(places.map((place) => freeAt(place)));
      const tightest = disks
        .filter((disk) => disk !== undefined)
        .sort((one, other) => one.share - other.share)[0];
      if (tightest === undefined) return undefined;
      const { share, free, place } = tightest;
      return {
        state: share < FREE.least ? "failing" : share < FREE.enough ? "warning" : "ok",
        words: t("health.diskFree", { share, size: sizeOf(free), place }),
        at: null,
      };
    },
  },
  {
    what: () => t("health.backup"),
    look: async ({ db, settings }, now) => {
      if (settings.backups === undefined)
        return { state: "warning", words: t("health.noBackups"), at: null };
      const run = (await listJobRuns(db)).find(({ name }) => name === "backups");
      if (run?.failure)
        return { state: "failing", words: firstLine(run.failure), at: iso(run.failedAt) };
      const last = run?.endedAt ?? null;
      const isOld = last === null || now.getTime() - last.getTime() > BACKUP_DAYS * DAY;
      return {
        state: isOld ? "warning" : "ok",
        words:
          last === null
            ? t("health.noBackupYet")
            : t("health.backupMade", { folder: settings.backups.folder }),
        at: iso(last),
      };
    },
  },
  {
    what: () => t("health.lastImport"),
    look: async ({ db }) => {
      const last = await findLastImport(db);
      return last === undefined
        ? { state: "ok", words: t("health.noImportYet"), at: null }
        : { state: "ok", words: last.fileName, at: iso(last.at) };
    },
  },
  {
    what: () => t("health.certificate"),
    look: async ({ settings: { tls } }, now) => {
      if (tls === undefined) return undefined;
      const until = new Date(new X509Certificate(readFileSync(tls.certFile)).validTo);
      const days = Math.floor((until.getTime() - now.getTime()) / DAY);
      return {
        state: days < 0 ? "failing" : days < CERTIFICATE_DAYS ? "warning" : "ok",
        words: days < 0 ? t("health.certificateOver") : t("health.certificateHolds", { days }),
        at: until.toISOString(),
      };
    },
  },
  {
    what: () => t("health.jobs"),
    look: async ({ db }) => {
      const runs = await listJobRuns(db);
      const failing = JOB_NAMES.filter((name) =>
        runs.some((run) => run.name === name && run.failure !== ""),
      );
      return failing.length === 0
        ? { state: "ok", words: t("health.jobsWork"), at: null }
        : {
            state: "warning",
            words: t("health.jobsFail", {
              jobs: failing.map((name) => say(RECURRING_JOBS[name].what)).join("; "),
            }),
            at: null,
          };
    },
  },
];

/** Looks at everything that a coordinator wants to know of the machine; what can't be found out is told as such. */
export function lookAtDetails(context: Context, now: Date): Promise<Detail[]> {
  return Promise.all(
    CHECKS.map(async ({ what, look }): Promise<Detail[]> => {
      try {
        const found = await look(context, now);
        return found === undefined ? [] : [{ what: what(), ...found }];
      } catch (failure) {
        context.log.warn(
          { failure: describeFailure(failure) },
          "the health could not be looked at",
        );
        return [{ what: what(), state: "failing", words: t("health.notFoundOut"), at: null }];
      }
    }),
  ).then((found) => found.flat());
}

/** How much of a disk is free, as a share and in octets, for whoever isn't root. */
async function freeAt(place: string) {
  const { bavail, blocks, bsize } = await statfs(place).catch(() => ({
    bavail: 0,
    blocks: 0,
    bsize: 0,
  }));
  return blocks === 0 ? undefined : { place, share: bavail / blocks, free: bavail * bsize };
}

/** A word on a way to the database that leaves this machine without TLS. */
function encrypted(databaseUrl: string): string {
  const { hostname, searchParams } = new URL(databaseUrl);
  const isHere = ["127.0.0.1", "localhost", "[::1]", ""].includes(hostname);
  const mode = searchParams.get("sslmode") ?? "disable";
  return isHere || !["disable", "allow", "prefer"].includes(mode)
    ? ""
    : t("health.databaseInClear");
}

function sizeOf(octets: number): string {
  const megabytes = octets / 1_000_000;
  return megabytes < 1000 ? `${Math.round(megabytes)} MB` : `${(megabytes / 1000).toFixed(1)} GB`;
}

function iso(at: Date | null | undefined): string | null {
  return at?.toISOString() ?? null;
}

function firstLine(text: string): string {
  return text.split("\n")[0] ?? "";
}
