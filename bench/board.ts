import { Person } from "@amigo/e2e/browser";

/** How the board fares in a browser, in milliseconds. */
export interface BoardFigures {
  /** The server's answer with every list. */
  answer: number;
  /** From asking for the page to a grid with cells in sight. */
  painted: number;
  /** The longest time between two frames while scrolling from top to bottom and back. */
  longestFrame: number;
  frames: number;
  /** The same for a plain table of as many cells, all drawn, on an otherwise empty page. */
  plainPainted: number;
  plainLongestFrame: number;
}

const SCROLL = `
const [selector] = arguments; const done = arguments[arguments.length - 1];
const node = document.querySelector(selector); const end = node.scrollHeight - node.clientHeight; const steps = 90;
let turn = 0, last = performance.now(), longest = 0;
const step = (now) => {
  longest = Math.max(longest, now - last); last = now;
  if (turn > 2 * steps) { done([longest, turn]); return; }
  node.scrollTop = end * (turn <= steps ? turn / steps : 2 - turn / steps); turn++;
  requestAnimationFrame(step);
};
requestAnimationFrame((now) => { last = now; requestAnimationFrame(step); });`;

/** Opens the board of a house with many lists and scrolls it, beside a plain table of as many cells. */
export async function measureBoard(
  url: string,
  cells: number,
  answer: number,
): Promise<BoardFigures> {
  const juno = await Person.open(url);
  try {
    await juno.click("button", "Juno Abara");
    await juno.read("lists, ");
    const begin = performance.now();
    await juno.driver.get(`${url}/`);
    await juno.driver.wait(
      async () =>
        juno.driver.executeScript<boolean>(
          "return document.querySelectorAll('a[data-cell]').length > 10",
        ),
      60_000,
    );
    const painted = performance.now() - begin;
    const [longestFrame, frames] = await juno.driver.executeAsyncScript<[number, number]>(
      SCROLL,
      "[role=table]",
    );
    await juno.driver.get("about:blank");
    const plainBegin = performance.now();
    await juno.driver.executeScript(
      `const [cells] = arguments; const rows = Math.ceil(cells / 2);
document.body.innerHTML = '<div id="plain" style="height:600px;overflow:auto"><table>' + Array.from({ length: rows }, (_, row) => '<tr><th>Class ' + row + '</th>' + [0, 1].map((own) => '<td><a href="#' + row + own + '"><b>21</b> bb-class' + row + '-2627</a><div style="height:4px;background:#b9cacb"></div></td>').join('') + '<td>all reached</td></tr>').join('') + '</table></div>';`,
      cells,
    );
    await juno.driver.executeAsyncScript(
      "const done = arguments[arguments.length - 1]; requestAnimationFrame(() => requestAnimationFrame(done));",
    );
    const plainPainted = performance.now() - plainBegin;
    const [plainLongestFrame] = await juno.driver.executeAsyncScript<[number, number]>(
      SCROLL,
      "#plain",
    );
    return { answer, painted, longestFrame, frames, plainPainted, plainLongestFrame };
  } finally {
    await juno.close();
  }
}
