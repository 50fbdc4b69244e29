import { useState, type ReactNode } from "react";
import { NavLink, useLocation } from "react-router";
import { may, type Action, type HouseRole } from "@amigo/core/access/may";
import { useKeys } from "../ui/Keys";
import { api } from "../data/api";
import { Boundary } from "./Boundary";
import { Find } from "./Find";
import { KeysHelp } from "./KeysHelp";
import { useLive } from "./live";
import { useMe } from "../data/me";
import { PulseLine } from "./PulseLine";
import { usePulseQuery, useSignOutMutation } from "../data/accounts";
import { useStore } from "../data/store";

const PLACES: {
  to: string;
  name: string;
  needs: Action;
  count?: "toApprove" | "causes" | "undelivered" | "faults" | "questions" | "held" | "requests";
  /** Who has it in another place. */ notFor?: HouseRole;
}[] = [
  { to: "/", name: "Board", needs: "see the board" },
  { to: "/changes", name: "Changes", needs: "see rounds", count: "causes" },
  { to: "/people", name: "People", needs: "see people", count: "questions" },
  { to: "/sources", name: "Sources", needs: "see sources", count: "faults" },
  { to: "/forms", name: "Forms", needs: "make forms", notFor: "coordinator" },
  { to: "/intakes", name: "Additions", needs: "fill intakes", count: "toApprove" },
  { to: "/mail", name: "Mail", needs: "see posts", count: "held" },
  { to: "/reach", name: "Reach", needs: "see people" },
  { to: "/house", name: "Settings", needs: "see the house" },
  { to: "/journal", name: "Journal", needs: "see the journal", notFor: "coordinator" },
  { to: "/accounts", name: "Accounts", needs: "see accounts", notFor: "coordinator" },
  { to: "/", name: "Add rows", needs: "add rows", notFor: "coordinator" },
];

const ROLE_NAMES: Record<HouseRole, string> = {
  coordinator: "Coordinator",
  "site coordinator": "Site coordinator",
  staff: "Staff",
  helper: "Helper",
};

/** What stands around every page: the pulse line, the rail, finding and the help on keys. */
export function Shell({ children }: { children: ReactNode }) {
  const me = useMe();
  const { data: pulse } = usePulseQuery(undefined, { skip: !may(me.role, "see the board") });
  const [finding, setFinding] = useState(false);
  const [helping, setHelping] = useState(false);
  const [signOut] = useSignOutMutation();
  const dispatch = useStore();
  const { pathname } = useLocation();
  useLive();
  useKeys({ "?": () => setHelping(true), "/": () => setFinding(true) });
  const leave = async (): Promise<void> => {
    await signOut();
    dispatch(api.util.resetApiState());
  };
  return (
    <div className="flex h-dvh min-h-[480px] flex-col">
      <a
        href="#page"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-panel focus:p-2"
      >
        To the page
      </a>
      <PulseLine onFind={() => setFinding(true)} />
      <div className="flex min-h-0 flex-1">
        <nav aria-label="Places" className="flex w-[150px] shrink-0 flex-col gap-px py-4 pl-5">
          <div className="mb-4 flex items-center gap-2 text-[21px] font-[750] tracking-[-.03em]">
            <Mark />
            amigo
          </div>
          {PLACES.filter(({ needs, notFor }) => may(me.role, needs) && me.role !== notFor).map(
            ({ to, name, count }) => {
              const waiting = count === undefined ? 0 : (pulse?.[count] ?? 0);
              return (
                <NavLink
                  key={name}
                  to={to}
                  end={to === "/"}
                  className={({ isActive }) =>
                    `flex items-center justify-between rounded-l border-r-[3px] py-1.5 pr-2.5 ${isActive ? "border-petrol font-[650] text-petrol" : "border-transparent text-ink-2 hover:text-ink"}`
                  }
                >
                  {name}
                  {waiting > 0 && (
                    <span className="rounded-full bg-marigold-soft px-[7px] text-xs font-semibold text-marigold-ink">
                      {waiting}
                    </span>
                  )}
                </NavLink>
              );
            },
          )}
          <div className="mt-auto pr-3 text-xs leading-[1.4] text-ink-3">
            <NavLink to="/account" className="block font-semibold text-ink hover:underline">
              {me.name}
            </NavLink>
            {ROLE_NAMES[me.role]}
            {me.site === null ? "" : `, ${me.site}`}
            <br />
            {me.house}
            <br />
            <button
              type="button"
              onClick={() => void leave()}
              className="mt-1.5 text-petrol underline underline-offset-2"
            >
              Sign out
            </button>
            <button
              type="button"
              onClick={() => setHelping(true)}
              className="ml-3 text-petrol underline underline-offset-2"
            >
              Keys <kbd>?</kbd>
            </button>
          </div>
        </nav>
        <main id="page" className="flex min-w-0 flex-1 flex-col overflow-auto px-5 pt-4 pb-4">
          <Boundary place={pathname}>{children}</Boundary>
        </main>
      </div>
      <Find open={finding} onOpen={setFinding} />
      <KeysHelp open={helping} onClose={() => setHelping(false)} />
    </div>
  );
}

function Mark() {
  return (
    <svg width="30" height="12" aria-hidden="true">
      <rect x="0" y="2" width="8" height="8" rx="2" fill="var(--brick)" opacity=".8" />
      <rect x="9" y="2" width="12" height="8" fill="var(--petrol)" />
      <rect x="22" y="2" width="8" height="8" rx="2" fill="var(--leaf)" opacity=".85" />
    </svg>
  );
}
