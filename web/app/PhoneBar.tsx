import { LayoutGrid, Menu, PenLine, Rows3, Search, type LucideIcon } from "lucide-react";
import { Suspense, useState } from "react";
import { NavLink } from "react-router";
import { may } from "@amigo/core/access/may";
import type { Pulse } from "@amigo/contract/house";
import { useMe } from "../data/me";
import { Count } from "../ui/Signs";
import { fetched } from "../ui/fetched";
import { placesOf, waitingIn, type Place } from "./places";
import { Rich, t } from "../texts/app";

const PhonePlaces = fetched(() => import("./PhonePlaces"), "PhonePlaces");

const IN_BAR = 3;
/** The places that stand in the bar itself, by their address. */
const ICONS: Record<string, LucideIcon> = {
  "/": LayoutGrid,
  "/changes": Rows3,
  "/mail/write": PenLine,
};
const ITEM =
  "flex min-h-[56px] flex-1 flex-col items-center justify-center gap-0.5 text-[12px] focus-visible:-outline-offset-2";

/** On a narrow screen: the places used most at the thumb, all others behind *More*. */
export function PhoneBar({
  pulse,
  onFind,
  onSignOut,
}: {
  pulse: Pulse | undefined;
  onFind: () => void;
  onSignOut: () => void;
}) {
  const me = useMe();
  const [open, setOpen] = useState(false);
  const places = placesOf(me.role);
  const canWrite = may(me.role, "see lists");
  const inBar: readonly Place[] = [
    ...places.filter(({ to }) => to in ICONS),
    ...(canWrite ? [{ to: "/mail/write", name: t("app.write"), needs: "see lists" } as const] : []),
  ].slice(0, IN_BAR);
  const others = places.filter((place) => !inBar.some(({ name }) => name === place.name));
  const waiting = others.reduce((sum, place) => sum + waitingIn(place, pulse), 0);
  return (
    <nav
      aria-label={t("app.placesAtTheThumb")}
      className="flex shrink-0 border-t border-hair bg-panel pb-[env(safe-area-inset-bottom)] md:hidden"
    >
      {inBar.map((place) => {
        const Icon = ICONS[place.to] ?? LayoutGrid;
        return (
          <NavLink
            key={place.name}
            to={place.to}
            end={place.to === "/"}
            className={({ isActive }) =>
              `${ITEM} ${isActive ? "font-[650] text-petrol" : "text-ink-2"}`
            }
          >
            <Icon size={18} aria-hidden="true" />
            <span className="flex items-center gap-1">
              {place.name}
              <Count of={waitingIn(place, pulse)} />
            </span>
          </NavLink>
        );
      })}
      {may(me.role, "see the board") && (
        <button type="button" onClick={onFind} className={`${ITEM} text-ink-2`}>
          <Search size={18} aria-hidden="true" />
          {t("app.find")}
        </button>
      )}
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(true)}
        className={`${ITEM} text-ink-2`}
      >
        <Menu size={18} aria-hidden="true" />
        <span className="flex items-center gap-1">
          <Rich id="app.more" badge={<Count of={waiting} />} />
        </span>
      </button>
      <Suspense fallback={null}>
        {open && (
          <PhonePlaces
            onClose={() => setOpen(false)}
            places={places}
            pulse={pulse}
            me={me}
            onSignOut={onSignOut}
          />
        )}
      </Suspense>
    </nav>
  );
}
