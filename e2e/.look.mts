import { Person } from "/work/main/e2e/browser";
const p = await Person.open("http://localhost:8080", {dark: process.argv[3]==="dark"});
const shot = (n: string) => p.picture(`/tmp/shots/${n}.png`);
const step = process.argv[2];
try {
  await p.read("Copperwheel");
  await p.click("button", "Juno Abara"); await p.see("link", "Board");
  if (step === "1") { await p.go("/sources"); await p.click("button", "autumn-roster.xlsx"); await p.click("button", "Read 220 students"); await p.see("button", "Bring"); }
  if (step === "2") {
    await p.go("/changes"); await p.click("button", "Bring 20 lists"); await p.read("brought in step");
    await p.go("/sources"); await p.click("button", "autumn-roster-week-2.xlsx"); await p.see("button", "Read 221 students"); await shot("draft2");
    await p.click("button", "Read 221 students"); await p.see("button", "Bring"); await p.read("Éloïse"); await p.press("j"); await new Promise(r=>setTimeout(r,600)); await shot("changes2");
    await p.go("/"); await p.read("Trapeze Two"); await shot("board2");
  }
  if (step === "3") {
    await p.go("/"); await p.click("link", "Trapeze Two, Guardians"); await p.read("On it because"); await p.type("Address to try","afairbairn@lettr.example"); await p.click("button","Try", true); await p.read("Returned"); await shot("list");
    await p.click("button", "Write to"); await p.read("families"); await p.type("Subject", "No class on Friday"); await p.type("Text", "Dear families,\nthe loft is closed on Friday.\n"); await p.press("");  await shot("write");
    await p.click("button", "Send to"); await p.read("delivered"); await new Promise(r=>setTimeout(r,1500)); await shot("post");
    await p.go("/house"); await p.read("Recipes"); await shot("house");
    await p.go("/sources"); await p.read("Faults by kind"); await shot("sources");
  }
  console.log(await p.errors());
} catch (e) { console.log(e); await shot("fail"); console.log(await p.text()); console.log(await p.errors()); }
await p.close();
