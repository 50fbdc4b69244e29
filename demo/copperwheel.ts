import { said } from "@amigo/language/say";
import type { HouseRole } from "@amigo/core/access/may";
import { FIRST_RECIPES } from "@amigo/core/lists/firstRecipes";
import type { RecipeValue } from "@amigo/core/lists/recipe";

/** The made-up school in which everything of the demo is set. */
export const HOUSE = {
  name: "Copperwheel Circus School",
  insideDomain: "copperwheel.example",
  listDomain: "lists.copperwheel.example",
  timeZone: "Europe/London",
  country: "GB",
  studentAddress: "{number}@copperwheel.example",
};

export const SITES = [
  { code: "BB", name: "Big Barn" },
  { code: "ML", name: "Mill Loft" },
];

const FIRST = {
  condition: "",
  preset: "announcement-only",
  leads: "coach",
  findable: "leads",
  leaving: "by oneself",
  adding: "quietly",
  welcome: "",
  season: "every season",
} as const;

/** The school's dictionary of short forms. */
export const SHORT_FORMS: Record<string, string> = {
  "Tumbling Seeds": "seeds",
  "Tumbling Sprouts": "sprouts",
  "Juggling One": "jugg1",
  "Juggling Two": "jugg2",
  "Acro Pairs": "acro",
  "Aerial Silks Start": "silks",
  "Trapeze Two": "trapeze2",
  "Stilts & Clowning": "stilts",
  "Wire Walk": "wire",
  "Hoops and Staff": "hoops",
  "Night Parade": "parade",
  "Harvest Show Crew": "harvest",
  "Junior Troupe": "junior",
  "Friends of the Ring": "friends",
  Guardians: "parents",
};

/** The school's recipes: those that every house starts with, the coaches of each class, and one list for the whole staff. */
export const RECIPES: readonly RecipeValue[] = [
  ...said(FIRST_RECIPES),
  {
    ...FIRST,
    name: "Coaches of each class",
    label: "Coaches",
    position: 5,
    each: "class",
    audience: "coaches of this class",
    pattern: "{site}-{class}-{audience}-{season}",
    outside: "none",
  },
  {
    ...FIRST,
    name: "Everybody on the staff",
    label: "Staff",
    position: 6,
    each: "house",
    audience: "staff",
    pattern: "{list}-{season}",
    leads: "",
    findable: "staff",
    outside: "none",
  },
];

/** One password for all demo accounts; the sign-in page shows that they are a demo's. */
export const DEMO_PASSWORD = "copperwheel-demo";

export const PEOPLE: { name: string; email: string; role: HouseRole; site?: string }[] = [
  { name: "Juno Abara", email: "juno.abara@copperwheel.example", role: "coordinator" },
  {
    name: "Odile Marchetti",
    email: "odile.marchetti@copperwheel.example",
    role: "site coordinator",
    site: "ML",
  },
  { name: "Ravi Lindqvist", email: "ravi.lindqvist@copperwheel.example", role: "staff" },
  { name: "Marta Okonjo", email: "marta.okonjo@copperwheel.example", role: "staff" },
  { name: "Teo Bramwell", email: "teo.bramwell@copperwheel.example", role: "staff" },
  { name: "Sunniva Hale", email: "sunniva.hale@copperwheel.example", role: "staff" },
  { name: "Petra Dunmore", email: "petra.dunmore@copperwheel.example", role: "staff" },
  { name: "Ilse Tamm", email: "ilse.tamm@copperwheel.example", role: "helper" },
];
