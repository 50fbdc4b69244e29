import {
  Suspense,
  useEffect,
  useEffectEvent,
  useState,
  type ReactNode,
  type Dispatch,
  type SetStateAction,
} from "react";
import { NavLink, useLocation } from "react-router";
import { may } from "@amigo/core/access/may";
import { useKeys } from "../ui/Keys";
import { api } from "../data/api";
import { Boundary } from "./Boundary";
import { fetched, useSoon } from "../ui/fetched";
import { useLive } from "./live";
import { useMe } from "../data/me";
import { PhoneBar } from "./PhoneBar";
import { placesOf, ROLE_NAMES, waitingIn } from "./places";
import { PulseLine } from "./PulseLine";
import { Count } from "../ui/Signs";
import { usePulseQuery, useSignOutMutation } from "../data/accounts";
import { useStore } from "../data/store";
import { t } from "../texts/app";
import type { Me } from "@amigo/contract/accounts";

const Find = fetched(() => import("./Find"), "Find");
const KeysHelp = fetched(() => import("./KeysHelp"), "KeysHelp");

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
  useFindKey(() => setFinding((before) => !before));
  useSoon(Find);
  const leave = async (): Promise<void> => {
    await signOut();
    dispatch(api.util.resetApiState());
  };
  return (
    <div className="flex h-dvh flex-col md:min-h-[480px]">
      <a
        href="#page"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-panel focus:p-2"
      >
        {t("app.toThePage")}
      </a>
      <PulseLine onFind={() => setFinding(true)} />
      <div className="flex min-h-0 flex-1">
        <nav
          aria-label={t("app.places")}
          className="flex w-[150px] shrink-0 flex-col gap-px overflow-y-auto py-4 pl-5 max-md:hidden"
        >
          <div className="mb-4 flex items-center gap-2 text-[21px] font-[750] tracking-[-.03em]">
            <Mark />
            {t("app.amigo")}
          </div>
          {placesOf(me.role).map((place) => (
            <NavLink
              key={place.name}
              to={place.to}
              end={place.to === "/"}
              className={({ isActive }) =>
                `flex items-center justify-between rounded-l border-r-[3px] py-1.5 pr-2.5 ${isActive ? "border-petrol font-[650] text-petrol" : "border-transparent text-ink-2 hover:text-ink forced-colors:border-[Canvas]"}`
              }
            >
              {place.name}
              <Count of={waitingIn(place, pulse)} />
            </NavLink>
          ))}
          <OwnLinks me={me} leave={leave} setHelping={setHelping} />
        </nav>
        <main
          id="page"
          className="flex min-w-0 flex-1 scroll-pb-28 flex-col overflow-auto px-3 pt-3 pb-4 md:px-5 md:pt-4"
        >
          <Boundary place={pathname}>{children}</Boundary>
        </main>
      </div>
      <PhoneBar pulse={pulse} onFind={() => setFinding(true)} onSignOut={() => void leave()} />
      <Suspense fallback={null}>
        {finding && <Find onClose={() => setFinding(false)} />}
        {helping && <KeysHelp onClose={() => setHelping(false)} />}
      </Suspense>
    </div>
  );
}

/** Calls back at Ctrl or ⌘ and K, also while somebody types. */
function useFindKey(toggle: () => void): void {
  const pressed = useEffectEvent((event: KeyboardEvent) => {
    if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "k") return;
    event.preventDefault();
    toggle();
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => pressed(event);
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
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

function OwnLinks({
  me,
  leave,
  setHelping,
}: {
  me: Me;
  leave: () => Promise<void>;
  setHelping: Dispatch<SetStateAction<boolean>>;
}) {
  return (
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
        {t("app.signOut")}
      </button>
      <button
        type="button"
        onClick={() => setHelping(true)}
        className="ml-3 text-petrol underline underline-offset-2"
      >
        {t("app.keys")} <kbd>?</kbd>
      </button>
    </div>
  );
}
