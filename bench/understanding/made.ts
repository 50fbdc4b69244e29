import { apartFromNeighbours } from "@amigo/core/sheet/shapes/sideBySide";
import type { Sheet, Workbook } from "@amigo/core/sheet/sheet";
import type { OfficeWords } from "./words";

/** A made-up sheet with the truth about it. */
export interface MadeSheet {
  language: string;
  shape: string;
  file: string;
  workbook: Workbook;
  truth: TrueStudent[];
  /** What each column truly holds, where the shape has plain columns; without slots. */
  columns?: (string | undefined)[];
}

export interface TrueStudent {
  given: string;
  family: string;
  groups: string[];
  addresses: string[];
}

/** Numbers that look random and are the same in every run. */
export function makeRandom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let value = Math.imul(state ^ (state >>> 15), state | 1);
    value ^= value + Math.imul(value ^ (value >>> 7), value | 61);
    return ((value ^ (value >>> 14)) >>> 0) / 4294967296;
  };
}

interface Adult {
  given: string;
  family: string;
  address: string;
}

interface Child {
  given: string;
  family: string;
  number: string;
  group: string;
  adults: Adult[];
}

const GROUPS: readonly (readonly string[])[] = [
  ["1A", "1B", "2A", "2B", "3A"],
  ["Otters", "Herons", "Badgers", "Kestrels"],
  ["5a", "5b", "6a"],
  ["Larch", "Rowan", "Alder", "Hazel"],
  ["Violin 1", "Violin 2", "Cello"],
];
const TEAMS: readonly (readonly string[])[] = [
  ["U9", "U11", "U13"],
  ["U12 Blue", "U12 White", "U14"],
  ["Comets", "Meteors"],
];
const MAILS = [
  "brightpost.example",
  "mailhaven.example",
  "oakmail.example",
  "lettr.example",
  "fernpost.example",
];

/** One sheet of a shape in a language; the same seed makes the same sheet. */
export function makeSheet(words: OfficeWords, shape: string, seed: number): MadeSheet {
  const random = makeRandom(seed);
  const pick = <Value>(of: readonly Value[]): Value =>
    of[Math.floor(random() * of.length)] as Value;
  const given = words.people.given.split(" ");
  const family = words.people.family.split(" ").map((name) => name.replaceAll("\u00a0", " "));
  const surname = (): string =>
    words.twoSurnames === true ? `${pick(family)} ${pick(family)}` : pick(family);
  const isTeam = random() < 0.25;
  const groups = pick(isTeam ? TEAMS : GROUPS);
  const plain = (text: string): string =>
    text
      .normalize("NFKD")
      .replace(/\p{M}/gu, "")
      .toLowerCase()
      .replace(/ß/g, "ss")
      .replace(/[łø]/g, (letter) => (letter === "ł" ? "l" : "o"))
      .replace(/ı/g, "i")
      .replace(/œ/g, "oe")
      .replace(/[^a-z]/g, "");
  const used = new Set<string>();
  const addressOf = (person: { given: string; family: string }): string => {
    const [g, f] = [plain(person.given), plain(person.family.split(" ").pop() ?? "")];
    const makers = [
      () => `${g}.${f}`,
      () => `${g.charAt(0)}${f}`,
      () => `${f}${g.charAt(0)}`,
      () => `${g}${Math.floor(random() * 90 + 10)}`,
      () => `${f}.${g}`,
      () => `family.${f}`,
      () =>
        `${pick(["blue", "sunny", "tall", "river", "north"])}${pick(["kite", "oak", "lamp", "stone"])}${Math.floor(random() * 99)}`,
    ];
    for (;;) {
      const box = pick(makers)();
      const address = `${used.has(`${box}`) ? `${box}${Math.floor(random() * 999)}` : box}@${pick(MAILS)}`;
      if (used.has(address)) continue;
      used.add(address);
      used.add(box);
      return address;
    }
  };
  const children: Child[] = [];
  const seen = new Set<string>();
  const count = 14 + Math.floor(random() * 40);
  let number = 1000 + Math.floor(random() * 8000);
  while (children.length < count) {
    const foundSurname = surname();
    const adults: Adult[] = [];
    const two = random() < 0.7;
    for (let at = 0; at < (two ? 2 : 1); at++) {
      const adult = { given: pick(given), family: random() < 0.7 ? foundSurname : surname() };
      if (adults.some((other) => other.given === adult.given)) continue;
      adults.push({ ...adult, address: addressOf(adult) });
    }
    const siblings = random() < 0.2 ? 2 : 1;
    for (let at = 0; at < siblings; at++) {
      const child = { given: pick(given), family: foundSurname };
      const key = `${child.given} ${child.family}`.split(" ").sort().join(" ");
      if (seen.has(key) || adults.some((adult) => adult.given === child.given)) continue;
      seen.add(key);
      number += 1 + Math.floor(random() * 30);
      children.push({ ...child, number: String(number), group: pick(groups), adults });
    }
  }
  if (random() < 0.5) children.sort((a, b) => (a.family < b.family ? -1 : 1));
  const maker = SHAPES[shape];
  if (maker === undefined) throw new Error(`no shape ${shape}`);
  return maker({ words, shape, random, pick, isTeam, groups, children, seed });
}

interface Making {
  words: OfficeWords;
  shape: string;
  random: () => number;
  pick: <Value>(of: readonly Value[]) => Value;
  isTeam: boolean;
  groups: readonly string[];
  children: Child[];
  seed: number;
}

interface Column {
  title: string;
  meaning: string;
  cell: (child: Child, at: number) => string;
}

function truthOf(
  children: readonly Child[],
  with_: { groups?: boolean; most?: number } = {},
): TrueStudent[] {
  return children.map(({ given, family, group, adults }) => ({
    given,
    family,
    groups: with_.groups === false ? [] : [group],
    addresses: adults.slice(0, with_.most ?? 2).map(({ address }) => address),
  }));
}

function book(
  making: Making,
  sheets: { name: string; rows: string[][]; joined?: Sheet["joined"] }[],
  truth: TrueStudent[],
  { file = "list.xlsx", columns }: { file?: string; columns?: readonly Column[] } = {},
): MadeSheet {
  return {
    ...(columns === undefined ? {} : { columns: columns.map(({ meaning }) => meaning) }),
    language: making.words.code,
    shape: making.shape,
    file,
    workbook: {
      format: "xlsx",
      sheets: sheets.flatMap(({ name, rows, joined = [] }) =>
        apartFromNeighbours({ name, rows, hidden: false, joined }),
      ),
    },
    truth,
  };
}

function nameColumns({ words, pick, random }: Making): Column[] {
  if (random() < 0.6) {
    const family: Column = {
      meaning: "student.surname",
      title: pick(words.surname),
      cell: (child) => child.family,
    };
    const given: Column = {
      meaning: "student.given",
      title: pick(words.given),
      cell: (child) => child.given,
    };
    return random() < 0.65 ? [family, given] : [given, family];
  }
  const kind = random();
  if (kind < 0.5)
    return [
      {
        meaning: "student.name",
        title: pick(words.name),
        cell: ({ given, family }) => `${given} ${family}`,
      },
    ];
  if (kind < 0.8)
    return [
      {
        meaning: "student.name",
        title: pick(words.familyFirst),
        cell: ({ given, family }) => `${family}, ${given}`,
      },
    ];
  return [
    {
      meaning: "student.name",
      title: pick(words.familyFirst),
      cell: ({ given, family }) => `${family.toUpperCase()} ${given}`,
    },
  ];
}

function groupColumn({ words, pick, isTeam }: Making): Column {
  return {
    meaning: isTeam ? "teams" : "classes",
    title: pick(isTeam ? words.team : words.class),
    cell: (child) => child.group,
  };
}

function guardianColumns(making: Making): Column[] {
  const { words, pick, random } = making;
  const whose = pick(words.guardians);
  const join = pick(words.joins);
  const email = pick(words.email);
  const name = pick(words.nameWord);
  const bare = random() < 0.3;
  const split = random() < 0.25;
  const both = whose.map((who, at): Column[] => {
    const found = (child: Child): Adult | undefined => child.adults[at];
    const names: Column[] = split
      ? [
          {
            meaning: "guardian.given",
            title: join(who, words.given[0] ?? ""),
            cell: (child) => found(child)?.given ?? "",
          },
          {
            meaning: "guardian.surname",
            title: join(who, words.surname[0] ?? ""),
            cell: (child) => found(child)?.family ?? "",
          },
        ]
      : [
          {
            meaning: "guardian.name",
            title: bare ? who : join(who, name),
            cell: (child) => {
              const adult = found(child);
              return adult === undefined ? "" : `${adult.given} ${adult.family}`;
            },
          },
        ];
    return [
      ...names,
      {
        meaning: "guardian.address",
        title: join(who, email),
        cell: (child) => found(child)?.address ?? "",
      },
    ];
  });
  const [first = [], second = []] = both;
  // Names side by side, then addresses side by side; or person by person.
  return random() < 0.2
    ? [...first.slice(0, -1), ...second.slice(0, -1), ...first.slice(-1), ...second.slice(-1)]
    : [...first, ...second];
}

function extraColumns({ words, pick, random }: Making): Column[] {
  const made = new Map<string, Column>();
  const kinds: [number, (child: Child, at: number) => string][] = [
    [0, (_, at) => `${2008 + (at % 9)}-0${1 + (at % 9)}-1${at % 9}`],
    [1, (_, at) => `0${7000000000 + at * 7919 + Math.floor(at / 3)}`],
    [2, (_, at) => (at % 6 === 0 ? "nuts" : "")],
    [3, (_, at) => String(10000 + ((at * 37) % 80) * 7)],
    [4, (_, at) => (at % 4 === 0 ? "no" : "yes")],
    [5, (_, at) => (at % 7 === 0 ? "picked up by a neighbour on Tuesdays" : "")],
    [6, (_, at) => `Mill Lane ${1 + ((at * 13) % 90)}`],
    [7, (_, at) => (at % 2 === 0 ? "m" : "f")],
  ];
  const many = Math.floor(random() * 4);
  for (let at = 0; at < many; at++) {
    const [index, cell] = pick(kinds);
    const title = words.extras[index] ?? "";
    made.set(title, { meaning: "unread", title, cell });
  }
  return [...made.values()];
}

function laidOut(columns: readonly Column[], children: readonly Child[]): string[][] {
  return [
    columns.map(({ title }) => title),
    ...children.map((child, at) => columns.map(({ cell }) => cell(child, at))),
  ];
}

function roster(making: Making, withGroup = true): Column[] {
  const { words, pick, random } = making;
  const number: Column[] =
    random() < 0.35
      ? [{ meaning: "student.number", title: pick(words.number), cell: (child) => child.number }]
      : [];
  const group = withGroup ? [groupColumn(making)] : [];
  const names = nameColumns(making);
  const front = random() < 0.5 ? [...names, ...group] : [...group, ...names];
  const coach: Column[] =
    withGroup && random() < 0.2
      ? [
          {
            meaning: "coach",
            title: pick(words.coach),
            cell: (child) =>
              `Ms ${["Thistle", "Marlow", "Perch", "Sorrel", "Quill"][making.groups.indexOf(child.group)] ?? "Reed"}`,
          },
        ]
      : [];
  const extras = extraColumns(making);
  return [
    ...number,
    ...front,
    ...coach,
    ...extras.slice(0, 1),
    ...guardianColumns(making),
    ...extras.slice(1),
  ];
}

function fromColumns(
  making: Making,
  columns: Column[],
  truth = truthOf(making.children),
  file?: string,
): MadeSheet {
  return book(making, [{ name: "Sheet1", rows: laidOut(columns, making.children) }], truth, {
    columns,
    ...(file === undefined ? {} : { file }),
  });
}

const SHAPES: Record<string, (making: Making) => MadeSheet> = {
  plain: (making) => fromColumns(making, roster(making)),
  "under a title": (making) => {
    const rows = laidOut(roster(making), making.children);
    const width = rows[0]?.length ?? 0;
    return book(
      making,
      [
        {
          name: "2026",
          rows: [
            ["Copperwheel Circus School"],
            ["printed 12.09.2026"],
            [],
            ...rows,
            [],
            [making.words.total, String(making.children.length)],
            ["Please tell the office about mistakes"],
          ].map((row) => [
            ...row,
            ...Array.from({ length: Math.max(0, width - row.length) }, () => ""),
          ]),
        },
      ],
      truthOf(making.children),
    );
  },
  "two-row header": (making) => {
    const { words, pick, children } = making;
    const whose = pick(words.guardians);
    const name = pick(words.nameWord);
    const email = pick(words.email);
    const names = nameColumns(making);
    const group = groupColumn(making);
    const upper = [...names.map(() => ""), "", whose[0], "", whose[1], ""];
    const lower = [...names.map(({ title }) => title), group.title, name, email, name, email];
    const start = names.length + 1;
    return book(
      making,
      [
        {
          name: "Sheet1",
          joined: [start, start + 2].map((column) => ({
            firstRow: 0,
            lastRow: 0,
            firstColumn: column,
            lastColumn: column + 1,
          })),
          rows: [
            upper,
            lower,
            ...children.map((child, at) => [
              ...names.map(({ cell }) => cell(child, at)),
              child.group,
              ...[0, 1].flatMap((index) => {
                const adult = child.adults[index];
                return adult === undefined
                  ? ["", ""]
                  : [`${adult.given} ${adult.family}`, adult.address];
              }),
            ]),
          ],
        },
      ],
      truthOf(children),
    );
  },
  "row a guardian": (making) => {
    const { words, pick, children } = making;
    const names = nameColumns(making);
    const group = groupColumn(making);
    const who = pick(words.guardian);
    const join = pick(words.joins);
    const rows = children.flatMap((child, at) =>
      child.adults.map((adult, index) => [
        ...names.map(({ cell }) => cell(child, at)),
        child.group,
        `${adult.given} ${adult.family}`,
        index === 0 ? (words.guardians[0]?.[0] ?? "") : (words.guardians[0]?.[1] ?? ""),
        adult.address,
      ]),
    );
    return book(
      making,
      [
        {
          name: "Sheet1",
          rows: [
            [
              ...names.map(({ title }) => title),
              group.title,
              who,
              pick(words.relation),
              join(who, pick(words.email)),
            ],
            ...rows,
          ],
        },
      ],
      truthOf(children),
    );
  },
  "row a class": (making) => {
    const { words, pick, children, groups, random } = making;
    const names = nameColumns(making);
    const who = pick(words.guardian);
    const rows: string[][] = [];
    const truth = truthOf(children, { most: 1 }).map((student, at) => {
      const child = children[at] as Child;
      const more = random() < 0.4 ? groups.find((group) => group !== child.group) : undefined;
      const found = more === undefined ? [child.group] : [child.group, more];
      for (const group of found)
        rows.push([
          group,
          child.number,
          ...names.map(({ cell }) => cell(child, at)),
          child.adults[0]?.address ?? "",
        ]);
      return { ...student, groups: found };
    });
    rows.sort((a, b) => ((a[0] ?? "") < (b[0] ?? "") ? -1 : 1));
    return book(
      making,
      [
        {
          name: "Sheet1",
          rows: [
            [
              groupColumn(making).title,
              pick(words.number),
              ...names.map(({ title }) => title),
              pick(words.joins)(who, pick(words.email)),
            ],
            ...rows,
          ],
        },
      ],
      truth,
    );
  },
  household: (making) => {
    const { words, pick, children } = making;
    const families = new Map<Adult[], Child[]>();
    for (const child of children)
      families.set(child.adults, [...(families.get(child.adults) ?? []), child]);
    const childWord = pick(words.child);
    const whose = pick(words.guardians);
    const join = pick(words.joins);
    const email = pick(words.email);
    const classTitle = pick(words.class);
    const titles = [
      ...whose.flatMap((who) => [who, join(who, email)]),
      ...[1, 2, 3].flatMap((at) => [`${childWord} ${at}`, `${classTitle} ${childWord} ${at}`]),
    ];
    const rows = [...families].map(([adults, value]) => [
      ...[0, 1].flatMap((at) => {
        const adult = adults[at];
        return adult === undefined ? ["", ""] : [`${adult.given} ${adult.family}`, adult.address];
      }),
      ...[0, 1, 2].flatMap((at) => {
        const child = value[at];
        return child === undefined ? ["", ""] : [`${child.given} ${child.family}`, child.group];
      }),
    ]);
    return book(making, [{ name: "Sheet1", rows: [titles, ...rows] }], truthOf(children));
  },
  marks: (making) => {
    const { children, groups, random, pick } = making;
    const names = nameColumns(making);
    const guardians = guardianColumns(making);
    const mark = pick(["x", "X", "✓"]);
    const truth = truthOf(children).map((student, at) => ({
      ...student,
      groups: groups.filter((group) => group === children[at]?.group || random() < 0.15),
    }));
    const rows = children.map((child, at) => [
      ...names.map(({ cell }) => cell(child, at)),
      ...groups.map((group) => (truth[at]?.groups.includes(group) === true ? mark : "")),
      ...guardians.map(({ cell }) => cell(child, at)),
    ]);
    return book(
      making,
      [
        {
          name: "Sheet1",
          rows: [
            [...names.map(({ title }) => title), ...groups, ...guardians.map(({ title }) => title)],
            ...rows,
          ],
        },
      ],
      truth,
    );
  },
  "both in one cell": (making) => {
    const { words, pick, random } = making;
    const who = pick(words.guardian);
    const between = pick([" & ", " / ", "; ", " + "]);
    const mails = pick(["; ", ", ", " / ", "\n"]);
    const columns: Column[] = [
      ...nameColumns(making),
      groupColumn(making),
      {
        meaning: "guardian.name",
        title: who,
        cell: ({ adults }) => {
          const [one, two] = adults;
          if (one === undefined) return "";
          if (two === undefined) return `${one.given} ${one.family}`;
          return one.family === two.family && random() < 0.5
            ? `${one.given}${between}${two.given} ${two.family}`
            : `${one.given} ${one.family}${between}${two.given} ${two.family}`;
        },
      },
      {
        meaning: "guardian.address",
        title: pick(words.joins)(who, pick(words.email)),
        cell: ({ adults }) => adults.map(({ address }) => address).join(mails),
      },
    ];
    return fromColumns(making, columns);
  },
  form: (making) => {
    const { words, pick } = making;
    const columns: Column[] = [
      {
        meaning: "answered",
        title: pick(words.submitted),
        cell: (_, at) =>
          `2026-09-${String(1 + (at % 28)).padStart(2, "0")} 1${at % 9}:${10 + (at % 49)}:00`,
      },
      {
        meaning: "student.name",
        title: pick(words.formChild),
        cell: ({ given, family }) => `${given} ${family}`,
      },
      { meaning: "classes", title: pick(words.formClass), cell: ({ group }) => group },
      {
        meaning: "guardian.name",
        title: pick(words.formParent),
        cell: ({ adults }) => `${adults[0]?.given ?? ""} ${adults[0]?.family ?? ""}`,
      },
      {
        meaning: "guardian.address",
        title: pick(words.formEmail),
        cell: ({ adults }) => adults[0]?.address ?? "",
      },
      {
        meaning: "unread",
        title: words.extras[4] ?? "",
        cell: (_, at) => (at % 5 === 0 ? "no" : "yes"),
      },
    ];
    return fromColumns(making, columns, truthOf(making.children, { most: 1 }));
  },
  headings: (making) => {
    const { words, groups, children, random } = making;
    const columns = roster(making, false);
    const again = random() < 0.4;
    const header = columns.map(({ title }) => title);
    const rows: string[][] = again ? [] : [header];
    const kept = groups.filter((group) => children.some((child) => child.group === group));
    const isCode = kept.every((group) => group.length <= 2);
    for (const group of kept) {
      if (random() < 0.5) rows.push([]);
      rows.push([isCode ? `${words.classWord} ${group}` : group]);
      if (again) rows.push(header);
      children
        .filter((child) => child.group === group)
        .forEach((child, at) => rows.push(columns.map(({ cell }) => cell(child, at))));
    }
    return book(making, [{ name: "Sheet1", rows }], truthOf(children));
  },
  "sheet a class": (making) => {
    const { groups, children } = making;
    const columns = roster(making, false);
    return book(
      making,
      groups
        .filter((group) => children.some((child) => child.group === group))
        .map((group) => ({
          name: group,
          rows: laidOut(
            columns,
            children.filter((child) => child.group === group),
          ),
        })),
      truthOf(children),
    );
  },
  "side by side": (making) => {
    const { groups, children, words } = making;
    const guardians = guardianColumns(making).slice(0, 2);
    const found = [...nameColumns(making), ...guardians];
    const [left = "", right = ""] = groups;
    const of = (group: string): Child[] => children.filter((child) => child.group === group);
    const blocks = [laidOut(found, of(left)), laidOut(found, of(right))];
    const height = Math.max(...blocks.map((block) => block.length));
    const isCode = left.length <= 2;
    const title = (group: string): string[] => [
      isCode ? `${words.classWord} ${group}` : group,
      ...found.slice(1).map(() => ""),
    ];
    const rows = [
      [...title(left), "", ...title(right)],
      ...Array.from({ length: height }, (_, at) => [
        ...(blocks[0]?.[at] ?? found.map(() => "")),
        "",
        ...(blocks[1]?.[at] ?? found.map(() => "")),
      ]),
    ];
    const both = [...of(left), ...of(right)];
    const addresses = guardians.map(({ cell }) => cell);
    return book(
      making,
      [{ name: "Sheet1", rows }],
      truthOf(both).map((student, at) => ({
        ...student,
        addresses: addresses
          .map((cell) => cell(both[at] as Child, at))
          .filter((text) => text.includes("@")),
      })),
    );
  },
  "no header": (making) => {
    const columns = roster(making);
    const rows = laidOut(columns, making.children).slice(1);
    return book(making, [{ name: "Sheet1", rows }], truthOf(making.children), { columns });
  },
  "class in the file's name": (making) => {
    const { words, children } = making;
    const columns = roster(making, false);
    return fromColumns(
      making,
      columns,
      truthOf(children).map((student) => ({ ...student, groups: ["4C"] })),
      `${words.classWord} 4C.xlsx`,
    );
  },
  faulty: (making) => {
    const { random } = making;
    const columns = roster(making);
    const rows = laidOut(columns, making.children);
    const slip = (text: string): string => {
      if (text.length < 6 || random() > 0.5) return text;
      const at = 2 + Math.floor(random() * (text.length - 4));
      return text.slice(0, at) + text.slice(at + 1);
    };
    const header = (rows[0] ?? []).map((title) => (random() < 0.3 ? slip(title) : title));
    const body = rows
      .slice(1)
      .map((row) =>
        row.map((cell) =>
          cell.includes("@") && random() < 0.05
            ? ` ${cell} `
            : random() < 0.05 && !cell.includes("@")
              ? `${cell} `
              : cell,
        ),
      );
    return book(making, [{ name: "Sheet1", rows: [header, ...body] }], truthOf(making.children), {
      columns,
    });
  },
};

/** Every shape that is made. */
export const SHAPE_NAMES: readonly string[] = Object.keys(SHAPES);
