import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { LayoutGrid, Menu, PenLine, Rows3, Search, type LucideIcon } from "lucide-react";
import { useState, type Dispatch, type SetStateAction } from "react";
import { NavLink } from "react-router";
import { may } from "@amigo/core/access/may";
import type { Pulse } from "@amigo/contract/house";
import { useMe } from "../data/me";
import { Count } from "../ui/Signs";
import { placesOf, ROLE_NAMES, waitingIn, type Place } from "./places";
import { t } from "../texts/t";
import { Rich } from "../texts/Rich";
import type { Me } from "@amigo/contract/accounts";

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
      <Dialog open={open} onClose={setOpen} className="relative z-40">
        <div className="fixed inset-0 bg-ink/30" aria-hidden="true" />
        <div className="fixed inset-0 flex items-end">
          <PhonePlaces
            setOpen={setOpen}
            places={places}
            pulse={pulse}
            me={me}
            onSignOut={onSignOut}
          />
        </div>
      </Dialog>
    </nav>
  );
}

function PhonePlaces({
  setOpen,
  places,
  pulse,
  me,
  onSignOut,
}: {
  setOpen: Dispatch<SetStateAction<boolean>>;
  places: readonly Place[];
  pulse: Pulse | undefined;
  me: Me;
  onSignOut: () => void;
}) {
  return (
    <DialogPanel className="max-h-[92dvh] w-full overflow-auto rounded-t-lg border-t border-hair bg-panel px-4 pt-4 pb-6 shadow-2xl">
      <div className="mb-2 flex items-center justify-between">
        <DialogTitle className="text-[18px] font-[680]">{t("app.allPlaces")}</DialogTitle>
        <button
          type="button"
          onClick={() => setOpen(false)}
          className="min-h-[44px] px-2 text-petrol underline underline-offset-2"
        >
          {t("app.close")}
        </button>
      </div>
      <ul className="grid grid-cols-2 gap-2">
        {places.map((place) => (
          <li key={place.name}>
            <NavLink
              to={place.to}
              end={place.to === "/"}
              onClick={() => setOpen(false)}
              className={({ isActive }) =>
                `flex min-h-[44px] items-center justify-between rounded-md border px-3 ${isActive ? "border-petrol font-[650] text-petrol" : "border-hair"}`
              }
            >
              {place.name}
              <Count of={waitingIn(place, pulse)} />
            </NavLink>
          </li>
        ))}
      </ul>
      <p className="mt-4 border-t border-hair pt-3 text-ink-2">
        {ROLE_NAMES[me.role]}
        {me.site === null ? "" : `, ${me.site}`} · {me.house} · {me.season.replace("-", "–")}
      </p>
      <div className="mt-1 flex flex-wrap gap-x-5">
        <NavLink
          to="/account"
          onClick={() => setOpen(false)}
          className="flex min-h-[44px] items-center text-petrol underline underline-offset-2"
        >
          {t("app.myAccount2", { name: me.name })}
        </NavLink>
        <button
          type="button"
          onClick={onSignOut}
          className="min-h-[44px] text-petrol underline underline-offset-2"
        >
          {t("app.signOut")}
        </button>
      </div>
    </DialogPanel>
  );
}
