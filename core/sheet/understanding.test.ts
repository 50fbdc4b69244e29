import { said, say } from "@amigo/language/say";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { understand, type Understood } from "../understand/understand";
import { makeSheet, SHAPE_NAMES, type MadeSheet } from "@amigo/bench/understanding/made";
import { judge } from "@amigo/bench/understanding/measure";
import { OFFICES } from "@amigo/bench/understanding/words";
import { understoodIn } from "../testing/understoodIn";
import { readText, readWorkbook } from "./readWorkbook";

const meanings = ({ files }: Understood): string[] =>
  (files[0]?.columns ?? []).map(({ meaning }) => meaning);
const told = ({ students }: Understood): string[] =>
  students.map(
    ({ given, family, classes, teams, guardians }) =>
      `${given} ${family} [${[...classes, ...teams].join("+")}] ${guardians
        .map(({ address }) => address ?? "-")
        .sort()
        .join(" ")}`,
  );

describe("sheets of offices that nobody had seen before", () => {
  test.each([
    [
      "a choir's, with a title above and a word for the household",
      "Choristers of the Minster\n\nChorister,Stall,Household e-mail,Tel\nMaisie Cropper,Brass,cropper7@lettr.example,01632 960101\nDigby Grimshaw,Strings,kite12@lettr.example,01632 960102\nJarvis Dewhurst,Brass,jdewhurst@lettr.example,01632 960103\nXanthe Cropper,Strings,cropper7@lettr.example,01632 960104",
      ["student.name", "classes", "guardian.address 1", "private"],
    ],
    [
      "the club secretary's, names in capitals first",
      "Licence;Joueur;Caté.;Contact parental;Courriel contact\n2501;FERRAND Corentin;U11;FERRAND Erwan;erwan.ferrand@lettr.example\n2502;AMIOT Solène;U13;AMIOT Loïc;loic.amiot@lettr.example\n2503;JOUBERT Tanguy;U11;JOUBERT Agnès;agnes.joubert@lettr.example",
      ["student.number", "student.name", "classes", "guardian.name 1", "guardian.address 1"],
    ],
    [
      "one that a program wrote",
      "studentLastName\tstudentFirstName\tgradeSection\tprimaryContactEmail\tsecondaryContactEmail\nCropper\tMaisie\tP1\ta@lettr.example\tb@lettr.example\nHolm\tUna\tP2\tc@lettr.example\t\nQuist\tBram\tP1\td@lettr.example\te@lettr.example",
      ["student.surname", "student.given", "classes", "guardian.address 1", "guardian.address 2"],
    ],
    [
      "with the small words of surnames apart",
      "Roepnaam;Tussenvoegsel;Achternaam;Groep;E-mail ouder\nMerel;van der;Berg;Groep 3;merel@lettr.example\nHidde;de;Groot;Groep 4;hidde@lettr.example\nSytse;;Faber;Groep 3;sytse@lettr.example",
      ["student.given", "student.prefix", "student.surname", "classes", "guardian.address 1"],
    ],
    [
      "in a language that Amigo doesn't know",
      "Osztály;Tanuló neve;Szülő neve;Szülő e-mail címe\n3.a;Arkwright Barnaby;Arkwright Cormac;cormac.arkwright@lettr.example\n3.b;Cropper Saoirse;Cropper Digby;digby.cropper@lettr.example\n3.a;Dewhurst Jarvis;Dewhurst Bronte;bronte.dewhurst@lettr.example\n3.b;Holm Una;Holm Petra;petra.holm@lettr.example",
      ["classes", "student.name", "guardian.name 1", "guardian.address 1"],
    ],
  ])("%s", (_, text, wanted) => {
    const understood = understoodIn(text);
    expect(meanings(understood)).toEqual(wanted);
    expect(understood.questions).toEqual([]);
  });

  test("surnames in capitals, with small words or written twice are one's surname", () => {
    const { students } = understoodIn(
      "NOM;Prénom;Classe;Mél\nLE GALL;Anne;CM1;a@lettr.example\nDE LA CRUZ;Inès;CM2;b@lettr.example\nO'BRIEN-ROY;Noé;CM1;c@lettr.example",
    );
    expect(students.map(({ family }) => family).sort()).toEqual([
      "Le Gall",
      "O'Brien-Roy",
      "de la Cruz",
    ]);
    expect(
      told(
        understoodIn(
          "Alumno,Curso,Correo madre\nAna García López,3A,a@lettr.example\nLuis Vega Soler,3B,b@lettr.example\nJuan Carlos Ruiz Mora,3A,c@lettr.example",
        ),
      ).sort(),
    ).toEqual([
      "Ana García López [3A] a@lettr.example",
      "Juan Carlos Ruiz Mora [3A] c@lettr.example",
      "Luis Vega Soler [3B] b@lettr.example",
    ]);
  });

  test("a household with several children gives each the family's addresses and a class of its own", () => {
    const understood = understoodIn(
      "Family,Child #1,Child #1 room,Child #2,Child #2 room,Best e-mail\nBrandt,Ida,K1,Leif,K2,brandt@lettr.example\nHolm,Una,K2,,,holm@lettr.example\nQuist,Bram,K1,Mina,K2,quist@lettr.example\nGallo,Wren,K1,Tariq,K1,gallo@lettr.example",
    );
    expect(told(understood).sort()).toEqual([
      "Bram Quist [K1] quist@lettr.example",
      "Ida Brandt [K1] brandt@lettr.example",
      "Leif Brandt [K2] brandt@lettr.example",
      "Mina Quist [K2] quist@lettr.example",
      "Tariq Gallo [K1] gallo@lettr.example",
      "Una Holm [K2] holm@lettr.example",
      "Wren Gallo [K1] gallo@lettr.example",
    ]);
  });

  test("marks under classes, lines between blocks and the file's name say the class", () => {
    const marks = understoodIn(
      "Participant,Debate,Chess,Parent email\nIda Brandt,x,,a@lettr.example\nUna Holm,x,x,b@lettr.example\nBram Quist,,x,c@lettr.example",
    );
    expect(told(marks).sort()).toEqual([
      "Bram Quist [Chess] c@lettr.example",
      "Ida Brandt [Debate] a@lettr.example",
      "Una Holm [Chess+Debate] b@lettr.example",
    ]);
    const blocks = understoodIn(
      "Class 3A - Ms Hale,\nPupil,Parent mail\nIda Brandt,a@lettr.example\nUna Holm,b@lettr.example\n,\nClass 3B - Mr Dunmore,\nPupil,Parent mail\nBram Quist,c@lettr.example\nWren Gallo,d@lettr.example",
    );
    expect(told(blocks).sort()).toEqual([
      "Bram Quist [3B] c@lettr.example",
      "Ida Brandt [3A] a@lettr.example",
      "Una Holm [3A] b@lettr.example",
      "Wren Gallo [3B] d@lettr.example",
    ]);
    const named = understoodIn(
      "Nachname;Vorname;E-Mail Mutter\nBrandt;Ida;a@lettr.example\nHolm;Una;b@lettr.example",
      "klasse-4c.csv",
    );
    expect(named.students.map(({ classes }) => classes)).toEqual([["4c"], ["4c"]]);
  });

  test("people who are here already tell children from guardians, whatever the titles", () => {
    const text =
      "Zorblat,Kvarnix,Group,Mail\nIrsa Tolm,Osvin Tolm,Larks,k1@lettr.example\nBelva Quarn,Torvin Quarn,Owls,k2@lettr.example\nNelda Frisk,Halda Frisk,Larks,k3@lettr.example\nUlba Stenn,Orla Stenn,Owls,k4@lettr.example";
    const book = readText(text);
    if (!book.ok) throw new Error(say(book.fault.sentence));
    const names = (column: number) =>
      text
        .split("\n")
        .slice(1)
        .map((line) => line.split(",")[column]?.split(" ") ?? [])
        .map(([given = "", family = ""]) => ({ given, family }));
    const told = (students: number): string[] => {
      const answer = understand([{ file: "x.csv", workbook: book.workbook }], {
        known: {
          titles: [],
          classes: [],
          teams: [],
          sites: [],
          staff: [],
          people: { students: names(students), guardians: names(1 - students), numbers: [] },
        },
      });
      return answer.ok ? meanings(answer.understood).slice(0, 2) : [];
    };
    expect(told(0)).toEqual(["student.name", "guardian.name 1"]);
    expect(told(1)).toEqual(["guardian.name 1", "student.name"]);
  });

  test("a year is the class where nothing else names one, and not where classes are known", () => {
    const contacts =
      "Surname,First name,Year,Email\nBrandt,Ida,3,a@lettr.example\nHolm,Una,4,b@lettr.example\nQuist,Bram,3,c@lettr.example";
    expect(told(understoodIn(contacts)).sort()).toEqual([
      "Bram Quist [3] c@lettr.example",
      "Ida Brandt [3] a@lettr.example",
      "Una Holm [4] b@lettr.example",
    ]);
    const roster = readText(
      "Surname,First name,Form\nBrandt,Ida,Larks\nHolm,Una,Owls\nQuist,Bram,Larks",
    );
    const second = readText(contacts);
    if (!roster.ok || !second.ok) throw new Error("unreadable");
    const both = understand([
      { file: "roster.csv", workbook: roster.workbook },
      { file: "contacts.csv", workbook: second.workbook },
    ]);
    expect(both.ok && told(both.understood).sort()).toEqual([
      "Bram Quist [Larks] c@lettr.example",
      "Ida Brandt [Larks] a@lettr.example",
      "Una Holm [Owls] b@lettr.example",
    ]);
  });

  test.each([
    [
      "an emergency contact isn't written to where the parents are named, and is said",
      "Student,Form,Mother Email,Emergency Contact,Emergency Email\nAda Fenn,7R,ruth@lettr.example,Rose Fenn,gran@oakmail.example\nKit Sorrel,7S,tove@lettr.example,Tim Hart,tim@oakmail.example\nJo Marsh,7R,ann@lettr.example,Bo Vale,bo@oakmail.example",
      [
        "Ada Fenn [7R] ruth@lettr.example",
        "Jo Marsh [7R] ann@lettr.example",
        "Kit Sorrel [7S] tove@lettr.example",
      ],
    ],
    [
      "names to call by and what guardians are to the child stand in brackets",
      'Last,First (goes by),Form,Adults,Mail\nFenn,"Charlotte ""Lottie""",7R,"Ruth Fenn (mum), Halim Fenn (dad)","ruth@lettr.example, halim@oakmail.example"\nSorrel,Oscar (Oz),7S,Tom Sorrel (grandfather),tom@lettr.example\nMarsh,Jo,7R,Ann Marsh,ann@lettr.example',
      [
        "Charlotte Fenn [7R] halim@oakmail.example ruth@lettr.example",
        "Jo Marsh [7R] ann@lettr.example",
        "Oscar Sorrel [7S] tom@lettr.example",
      ],
    ],
    [
      "a tutor's group is the class, and a number beside each contact isn't",
      "Name,Year,Tutor,Contact,Contact Email,Priority\nAda Fenn,9,9KL,Ruth Fenn,ruth@lettr.example,1\nAda Fenn,9,9KL,Halim Fenn,halim@lettr.example,2\nKit Sorrel,9,9MB,Tom Sorrel,tom@lettr.example,1\nJo Marsh,10,10KL,Ann Marsh,ann@lettr.example,1",
      [
        "Ada Fenn [9KL] halim@lettr.example ruth@lettr.example",
        "Jo Marsh [10KL] ann@lettr.example",
        "Kit Sorrel [9MB] tom@lettr.example",
      ],
    ],
    [
      "small words of Dutch surnames stand behind the comma",
      'Leerling;Groep;E-mail\n"Wit, de, Fenna";5a;marieke@lettr.example\n"Berg, Daan van den";5b;bas@lettr.example\n"Kuiper, Sanne";5a;petra@lettr.example',
      [
        "Daan van den Berg [5b] bas@lettr.example",
        "Fenna de Wit [5a] marieke@lettr.example",
        "Sanne Kuiper [5a] petra@lettr.example",
      ],
    ],
    [
      "Turkish capitals become Turkish small letters",
      "Adı Soyadı;Sınıfı;Veli e-postası\nELİF YILMAZ;4A;y@lettr.example\nMert ÇELİK;4B;c@lettr.example\nNehir AYDIN;4A;n@lettr.example",
      [
        "Elif Yılmaz [4A] y@lettr.example",
        "Mert Çelik [4B] c@lettr.example",
        "Nehir Aydın [4A] n@lettr.example",
      ],
    ],
    [
      "a child without an address is no heading in a table of two columns",
      "Klasse 5a;;;Klasse 5b;\nName;Mail;;Name;Mail\nSveva Moretti;;;Lotte Brand;\nFinn Vogt;a@lettr.example;;Greta Thoma;e@lettr.example\nJonas Kessler;b@lettr.example;;Emil Holm;f@lettr.example",
      [
        "Emil Holm [5b] f@lettr.example",
        "Finn Vogt [5a] a@lettr.example",
        "Greta Thoma [5b] e@lettr.example",
        "Jonas Kessler [5a] b@lettr.example",
        "Lotte Brand [5b] ",
        "Sveva Moretti [5a] ",
      ],
    ],
    [
      "a line above says the class behind a dash",
      "École des Tilleuls,\nListe des élèves - CM1 A,\n,\nÉlève,Courriel père\nMARCHAND Théo,p.marchand@lettr.example\nLE GOFF Manon,legoff@oakmail.example\nVASSEUR Louise,vasseur@lettr.example",
      [
        "Louise Vasseur [CM1 A] vasseur@lettr.example",
        "Manon Le Goff [CM1 A] legoff@oakmail.example",
        "Théo Marchand [CM1 A] p.marchand@lettr.example",
      ],
    ],
    [
      "level and section name the class together",
      "Std,Div,Roll No,Name of the student,Father's mail id\n5,A,1,Ada Fenn,a@lettr.example\n5,B,1,Kit Sorrel,b@lettr.example\n6,A,1,Jo Marsh,c@lettr.example\n6,B,1,Una Vale,d@lettr.example\n5,A,2,Ida Brandt,e@lettr.example\n5,B,2,Bram Quist,f@lettr.example\n6,A,2,Wren Gallo,g@lettr.example",
      [
        "Ada Fenn [5A] a@lettr.example",
        "Bram Quist [5B] f@lettr.example",
        "Ida Brandt [5A] e@lettr.example",
        "Jo Marsh [6A] c@lettr.example",
        "Kit Sorrel [5B] b@lettr.example",
        "Una Vale [6B] d@lettr.example",
        "Wren Gallo [6A] g@lettr.example",
      ],
    ],
  ])("%s", (_, text, wanted) => {
    const understood = understoodIn(text);
    expect(told(understood).sort()).toEqual(wanted);
    expect(understood.questions).toEqual([]);
  });

  test("two people and two addresses in a cell are paired by name, and asked about where nothing tells", () => {
    const { students, questions } = understoodIn(
      'Name,Class,Parents,Emails\nIda Brandt,Larks,Halim & Rosa Brandt,"rosa@lettr.example; halim.b@lettr.example"\nUna Holm,Owls,Petra Holm / Otto Quist,"otto.quist@lettr.example, p.holm@lettr.example"\nBram Gallo,Larks,Ana and Luis Gallo,"gallo61@lettr.example gallo77@lettr.example"',
    );
    const of = (given: string): string[] =>
      students
        .find((student) => student.given === given)
        ?.guardians.map(
          (guardian) => `${guardian.given} ${guardian.family} ${guardian.address ?? ""}`,
        )
        .sort() ?? [];
    expect(of("Ida")).toEqual([
      "Halim Brandt halim.b@lettr.example",
      "Rosa Brandt rosa@lettr.example",
    ]);
    expect(of("Una")).toEqual([
      "Otto Quist otto.quist@lettr.example",
      "Petra Holm p.holm@lettr.example",
    ]);
    expect(of("Bram")).toHaveLength(2);
    expect(questions.map(({ row }) => row)).toEqual([4]);
  });

  describe("which of two guardians an address belongs to", () => {
    const alike = ["k1@lettr.example,k2@lettr.example", "k3@lettr.example,k4@lettr.example"];
    const named = [
      "rosa.b@lettr.example,halim@lettr.example",
      "petra@lettr.example,quist9@lettr.example",
    ];
    const sheet = (titles: string, addresses: readonly string[]): Understood =>
      understoodIn(
        `Name,Class,${titles}\nIda Brandt,Larks,Rosa Brandt,Halim Brandt,${addresses[0] ?? ""}\nUna Holm,Owls,Petra Holm,Otto Quist,${addresses[1] ?? ""}`,
      );

    test.each([
      ["Mother,Father,Mother's email,Father's email", alike],
      ["Father,Mother,E-mail (father),E-mail (mother)", alike],
      ["Parent 1,Parent 2,Email 1,Email 2", alike],
      ["Parent,Second parent,Email,Second email", alike],
      ["Mum,Dad,Email,Email", named],
    ])("is told by titles or names: %s", (titles, addresses) => {
      const { students, questions } = sheet(titles, addresses);
      expect(questions).toEqual([]);
      expect(
        students
          .flatMap(({ guardians }) =>
            guardians.map(({ given, address }) => `${address ?? "-"} ${given}`),
          )
          .sort(),
      ).toEqual(
        addresses
          .join(",")
          .split(",")
          .map((address, at) => `${address} ${["Rosa", "Halim", "Petra", "Otto"][at] ?? ""}`)
          .sort(),
      );
    });

    test.each(["Mum,Dad,Email,Email", "Mother,Father,Home mail,Work mail"])(
      "is asked where nothing tells: %s",
      (titles) => {
        const { questions } = sheet(titles, alike);
        const [, , mum = "", dad = "", email = ""] = `,,${titles}`.split(",");
        expect(said(questions).map(({ about, choices }) => [about, choices])).toEqual([
          [
            `Whose address is "${email}" (column E)?`,
            [`"${mum}" (column C)`, `"${dad}" (column D)`],
          ],
        ]);
      },
    );
  });

  test("two children of one first name, and two sisters whose names are a letter apart, stay two", () => {
    expect(
      told(
        understoodIn(
          "Kid,Slot,Parent,Invoice e-mail\nWren,Sat 10,Ana Vega,ana.vega@lettr.example\nWren,Sat 10,Luis Soler,luis.soler@lettr.example\nIda,Wed 4,Petra Holm,petra@lettr.example\nUna,Wed 4,Otto Quist,otto@lettr.example",
        ),
      ),
    ).toHaveLength(4);
    const sisters = understoodIn(
      "Surname,First name,Class,Email\nFrohling,Edda,5a,f@lettr.example\nFrohling,Hedda,5a,f@lettr.example\nHolm,Una,5b,h@lettr.example",
    );
    expect(sisters.questions.length + sisters.students.length).toBeGreaterThanOrEqual(3);
    const strangers = understoodIn(
      "Name,Class,Parent,Email\nAino Koskela,4A,Sari Koskela,sari@lettr.example\nEino Koskela,5B,Timo Koskela,timo@oakmail.example",
    );
    expect([strangers.students.length, strangers.questions]).toEqual([2, []]);
  });

  test("a strange word over an address and over names says whose both are", () => {
    const understood = understoodIn(
      "Επώνυμο,Όνομα,Τμήμα,Email γονέα,Ονοματεπώνυμο γονέα\nΠαπαδόπουλος,Νίκος,Γ2,maria.p@lettr.example,Μαρία Παπαδοπούλου\nΓεωργίου,Ελένη,Δ1,kostas@oakmail.example,Κώστας Γεωργίου\nΝικολάου,Άννα,Γ2,petros@oakmail.example,Πέτρος Νικολάου\nΔημητρίου,Γιώργος,Δ1,sofia@lettr.example,Σοφία Δημητρίου",
    );
    expect(meanings(understood)).toEqual([
      "student.surname",
      "student.given",
      "classes",
      "guardian.address 1",
      "guardian.name 1",
    ]);
  });

  test("whether addresses with the members' own names are theirs is asked, and taken so meanwhile", () => {
    const members =
      "Member,Section,Email address\nHedda Moreau,Soprano,hedda.moreau@lettr.example\nAron Feld,Bass,aron.feld@oakmail.example\nInes Carrow,Alto,ines@fernpost.example\nBettina Voss,Soprano,b.voss@lettr.example\nOtto Lind,Bass,otto.lind@lettr.example\nSven Dahl,Alto,svendahl@lettr.example";
    const own = understoodIn(members);
    expect(meanings(own)).toContain("student.address");
    expect(said(own.questions)[0]?.about).toContain('What does "Email address" (column C) hold?');
    // A parent's address often holds the surname, which is the child's as well.
    const parents = understoodIn(
      members
        .replace("Member,", "Name,")
        .replaceAll(/(\w+) (\w+),(\w+),[a-z.]+@/g, "$1 $2,$3,fam.$2@"),
    );
    expect(meanings(parents)).toContain("guardian.address 1");
    expect(parents.questions).toEqual([]);
  });

  test("a price list makes nobody a student, and says so", () => {
    const { students, questions } = understoodIn(
      "Item,Price,Shelf\nRope,12,3\nChalk,4,1\nMats,90,2",
    );
    expect(students).toEqual([]);
    expect(said(questions)[0]?.about).toContain("no column with the students' names");
  });
});

/** The bytes of a text as programs write them. */
function encoded(text: string, encoding: string): Uint8Array {
  if (encoding === "windows-1252") return Buffer.from(text, "latin1");
  if (!encoding.startsWith("utf16"))
    return Buffer.from(encoding === "utf8" ? text : `\uFEFF${text}`, "utf8");
  const little = Buffer.from(`\uFEFF${text}`, "utf16le");
  return encoding === "utf16le" ? little : little.swap16();
}

/** Hundreds of sheets are understood in one test, on machines of any speed. */
const LONG = 120_000;

describe("what doesn't change what is understood", () => {
  const sheet = fc
    .record({
      office: fc.constantFrom(...OFFICES),
      shape: fc.constantFrom("plain", "faulty", "form", "both in one cell"),
      seed: fc.integer({ min: 1, max: 5000 }),
    })
    .map(({ office, shape, seed }) => makeSheet(office, shape, seed))
    .filter((made) => judge(made).right);
  const rowsOf = ({ workbook }: MadeSheet): string[][] => workbook.sheets[0]?.rows ?? [];
  const withRows = (made: MadeSheet, rows: string[][]): MadeSheet => ({
    ...made,
    workbook: {
      ...made.workbook,
      sheets: made.workbook.sheets.map((eachSheet) => ({ ...eachSheet, rows })),
    },
  });
  const outcome = (made: MadeSheet): unknown => {
    const answer = understand([{ file: made.file, workbook: made.workbook }]);
    if (!answer.ok) return answer.fault.code;
    return told(answer.understood).sort();
  };

  test(
    "the order of rows, and a further column of numbers",
    () => {
      fc.assert(
        fc.property(sheet, (made) => {
          const [head = [], ...body] = rowsOf(made);
          const before = outcome(made);
          expect(outcome(withRows(made, [head, ...body.toReversed()]))).toEqual(before);
          expect(
            outcome(
              withRows(made, [
                [...head, "Kvx"],
                ...body.map((row, at) => [...row, String(((at * 7919) % 9973) + 0.5)]),
              ]),
            ),
          ).toEqual(before);
        }),
        { numRuns: 12 },
      );
    },
    LONG,
  );

  test(
    "the order of columns",
    () => {
      fc.assert(
        fc.property(sheet, fc.infiniteStream(fc.nat()), (made, keys) => {
          const rows = rowsOf(made);
          const width = Math.max(...rows.map(({ length }) => length));
          const order = Array.from({ length: width }, (_, at) => ({
            at,
            key: keys.next().value ?? 0,
          }))
            .sort((a, b) => a.key - b.key)
            .map(({ at }) => at);
          const moved = withRows(
            made,
            rows.map((row) => order.map((at) => row[at] ?? "")),
          );
          expect(judge(moved), order.join()).toMatchObject({ right: true });
        }),
        { numRuns: 25 },
      );
    },
    LONG,
  );

  test(
    "the separator and the encoding",
    () => {
      fc.assert(
        fc.property(
          sheet,
          fc.constantFrom(",", ";", "\t"),
          fc.constantFrom("utf8", "utf8 with a mark", "utf16le", "utf16be", "windows-1252"),
          (made, separator, encoding) => {
            const quoted = (cell: string): string => `"${cell.replaceAll('"', '""')}"`;
            const text = rowsOf(made)
              .map((row) => row.map(quoted).join(separator))
              .join("\r\n");
            fc.pre(encoding !== "windows-1252" || /^[\0-\u00ff]*$/.test(text));
            const book = readWorkbook(encoded(text, encoding));
            if (!book.ok) throw new Error(say(book.fault.sentence));
            expect(outcome({ ...made, workbook: book.workbook })).toEqual(outcome(made));
          },
        ),
        { numRuns: 25 },
      );
    },
    LONG,
  );

  test(
    "no address is lost without a word, whatever the titles",
    () => {
      fc.assert(
        fc.property(
          sheet,
          fc.array(fc.string({ minLength: 0, maxLength: 12 }), { minLength: 16, maxLength: 16 }),
          (made, titles) => {
            const [head = [], ...body] = rowsOf(made);
            const made2 = withRows(made, [head.map((_, at) => titles[at] ?? ""), ...body]);
            const answer = understand([{ file: "x.csv", workbook: made2.workbook }]);
            if (!answer.ok) return;
            const { students, questions, faults } = answer.understood;
            const found = new Set(
              students.flatMap(({ guardians }) => guardians.map(({ address }) => address)),
            );
            const written = body
              .flat()
              .flatMap((cell) => cell.split(/[\s;,/]+/).filter((part) => part.includes("@")));
            const lost = written.filter((address) => !found.has(address));
            const isSaid =
              questions.length > 0 ||
              faults.length > 0 ||
              answer.notes.some(({ note }) => say(note).includes("email addresses")) ||
              answer.understood.files.some(({ columns }) =>
                columns.some(
                  ({ meaning }) => meaning === "student.address" || meaning === "coach.address",
                ),
              );
            expect(lost.length === 0 || isSaid, lost.join()).toBe(true);
          },
        ),
        { numRuns: 15 },
      );
    },
    LONG,
  );

  test(
    "at least nineteen of twenty made-up sheets of every shape are understood",
    () => {
      const sheets = SHAPE_NAMES.flatMap((shape, at) =>
        OFFICES.filter((_, language) => (language + at) % 3 === 0).map((office, language) =>
          makeSheet(office, shape, 90_001 + at * 31 + language),
        ),
      );
      const wrong = sheets.map((made) => judge(made)).filter(({ right }) => !right);
      expect(
        wrong.length / sheets.length,
        wrong
          .map(({ sheet: madeSheet, why }) => `${madeSheet.language} ${madeSheet.shape}: ${why}`)
          .join("\n"),
      ).toBeLessThan(0.05);
    },
    LONG,
  );
});
