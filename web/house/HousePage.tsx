import { capital } from "@amigo/core/text/sentence";
import { Suspense } from "react";
import { useSearchParams } from "react-router";
import { FaultPage, Loading, PageHead } from "../ui/Page";
import { Tabs } from "../ui/Tabs";
import { useHouseQuery } from "../data/house";
import { fetched } from "../ui/fetched";
import { t } from "../texts/house";

const Accounts = fetched(() => import("../staff/Accounts"), "Accounts");
const Basics = fetched(() => import("./Basics"), "Basics");
const Guarding = fetched(() => import("./Guarding"), "Guarding");
const HouseMail = fetched(() => import("./HouseMail"), "HouseMail");
const HouseRules = fetched(() => import("./HouseRules"), "HouseRules");
const Jobs = fetched(() => import("./Jobs"), "Jobs");
const Journal = fetched(() => import("./Journal"), "Journal");
const NamingWorkshop = fetched(() => import("./NamingWorkshop"), "NamingWorkshop");
const Recipes = fetched(() => import("./Recipes"), "Recipes");
const RetentionTab = fetched(() => import("./Retention"), "RetentionTab");
const Seasons = fetched(() => import("./Seasons"), "Seasons");
const System = fetched(() => import("./System"), "System");
const Tokens = fetched(() => import("./Tokens"), "Tokens");

/** The settings by what they are about; the first page of a group is the one that opens. */
const GROUPS = [
  {
    id: "lists",
    name: t("house.lists"),
    line: t("house.whichListsThereAreWhat"),
    pages: [
      ["", t("house.recipes")],
      ["names", t("house.naming")],
      ["rules", t("house.rules")],
      ["guards", t("house.safetyChecks")],
    ],
  },
  {
    id: "school",
    name: "",
    line: t("house.namePlaceDomainsAndSites"),
    pages: [
      ["places", t("house.nameAndDomains")],
      ["seasons", t("house.seasons")],
    ],
  },
  {
    id: "people",
    name: t("house.people"),
    line: t("house.whoCanSignInWhich"),
    pages: [
      ["people", t("house.accounts")],
      ["tokens", t("house.apiTokens")],
      ["retention", t("house.retention")],
    ],
  },
  {
    id: "mail",
    name: t("house.mail"),
    line: t("house.sendingDigestsHeldMailAnd"),
    pages: [["mail", t("house.mail")]],
  },
  {
    id: "journal",
    name: t("house.journal"),
    line: t("house.whoDidWhatAndWhen"),
    pages: [
      ["journal", t("house.journal")],
      ["jobs", t("house.recurringWork")],
      ["system", t("house.system")],
    ],
  },
] as const;

/** The settings: lists, the school itself, people, mail, and the journal. */
export function HousePage() {
  const { data: house, error } = useHouseQuery();
  const [search, setSearch] = useSearchParams();
  const tab = search.get("tab") ?? "";
  const group = GROUPS.find(({ pages }) => pages.some(([id]) => id === tab)) ?? GROUPS[0];
  if (error !== undefined) return <FaultPage error={error} />;
  if (house === undefined) return <Loading what={t("house.theSettings")} />;
  const open = (id: string): void => setSearch(id === "" ? {} : { tab: id });
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <PageHead title={t("house.settings")} line={group.line} />
      <Tabs
        label={t("house.settings")}
        value={group.id}
        tabs={GROUPS.map(({ id, name }) => [id, name === "" ? capital(house.kind) : name] as const)}
        onChange={(id) => open(GROUPS.find((candidate) => candidate.id === id)?.pages[0][0] ?? "")}
      />
      {group.pages.length > 1 && (
        <nav
          aria-label={t("house.pagesOfTheseSettings")}
          className="-mt-1 mb-3.5 flex flex-wrap gap-1.5"
        >
          {group.pages.map(([id, name]) => (
            <button
              key={id}
              type="button"
              aria-current={id === tab ? "page" : undefined}
              onClick={() => open(id)}
              className={`rounded-full border px-3 py-0.5 text-[13px] ${id === tab ? "border-petrol bg-petrol-soft font-[620] text-petrol" : "border-hair bg-panel text-ink-2 hover:border-petrol"}`}
            >
              {name}
            </button>
          ))}
        </nav>
      )}
      <Suspense fallback={<Loading what={t("house.theSettings")} />}>
        {tab === "" && <Recipes house={house} />}
        {tab === "names" && <NamingWorkshop house={house} />}
        {tab === "rules" && <HouseRules />}
        {tab === "seasons" && <Seasons house={house} />}
        {tab === "places" && <Basics house={house} />}
        {tab === "guards" && <Guarding house={house} />}
        {tab === "people" && <Accounts />}
        {tab === "mail" && <HouseMail />}
        {tab === "tokens" && <Tokens />}
        {tab === "retention" && <RetentionTab />}
        {tab === "journal" && <Journal />}
        {tab === "jobs" && <Jobs />}
        {tab === "system" && <System />}
      </Suspense>
    </div>
  );
}
