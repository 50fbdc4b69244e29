import { fork } from "node:child_process";
import { once } from "node:events";
import { JUNO, startTestHouse } from "@amigo/server/testing/testHouse";

/** What an attacker tells now and then. */
export interface HostileTold {
  sent: Record<string, number>;
  /** How often each status was answered over HTTP. */
  statuses: Record<string, number>;
  /** Answers of 5xx other than those that say that something is busy. */
  failed: string[];
}

/** How the house answers from a second connection meanwhile. */
export interface HealthTold {
  asked: number;
  failed: number;
  slowest: number;
}

/**
 * Sends random hostile input, made from the samples, to every port of a running house for some minutes, and asks for its health
 * from a second connection meanwhile. The house, the attacker and the one who asks are processes of their own.
 */
export async function measureHostile(minutes: number): Promise<void> {
  const house = await startTestHouse({
    roles: "web,mail,worker",
    settings: { AMIGO_PROXIED: "yes" },
  });
  const juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  const start = (role: string) =>
    fork(new URL("./hostileClient.ts", import.meta.url), [role], {
      execArgv: ["--import", "tsx"],
    });
  const target = {
    url: house.url,
    cookie: juno.cookie,
    smtp: house.amigo.ports.incoming,
    submission: house.amigo.ports.submission,
    until: Date.now() + minutes * 60_000,
  };
  const [attacker, asker] = [start("attack"), start("health")];
  const told = Promise.all([once(attacker, "message"), once(asker, "message")]);
  attacker.send(target);
  asker.send(target);
  const [[attack], [health]] = (await told) as [[HostileTold], [HealthTold]];
  attacker.kill();
  asker.kill();
  const still = await juno.ask<unknown[]>("GET", "/api/sources");
  console.log(`\nHostile input for ${minutes} minutes, made from the samples`);
  for (const [what, count] of Object.entries(attack.sent))
    console.log(`  ${what.padEnd(28)} ${String(count).padStart(8)}`);
  console.log(
    `  HTTP answers                 ${Object.entries(attack.statuses)
      .map(([status, count]) => `${status}: ${count}`)
      .join(", ")}`,
  );
  console.log(`  answered 5xx                 ${String(attack.failed.length).padStart(8)}`);
  for (const sentence of [...new Set(attack.failed)].slice(0, 10)) console.log(`    ${sentence}`);
  console.log(
    `  health, asked ${health.asked} times from a second connection: ${health.failed} failed, the slowest took ${Math.round(health.slowest)} ms`,
  );
  console.log(`  the house answers afterwards with ${still.status}`);
  await house.close();
}
