import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { NavLink } from "react-router";
import type { Me } from "@amigo/contract/accounts";
import type { Pulse } from "@amigo/contract/house";
import { Count } from "../ui/Signs";
import { t } from "../texts/app";
import { ROLE_NAMES, waitingIn, type Place } from "./places";

/** All places, on a narrow screen, over the page. */
export function PhonePlaces({
  onClose,
  places,
  pulse,
  me,
  onSignOut,
}: {
  onClose: () => void;
  places: readonly Place[];
  pulse: Pulse | undefined;
  me: Me;
  onSignOut: () => void;
}) {
  return (
    <Dialog open onClose={onClose} className="relative z-40">
      <div className="fixed inset-0 bg-ink/30" aria-hidden="true" />
      <div className="fixed inset-0 flex items-end">
        <DialogPanel className="max-h-[92dvh] w-full overflow-auto rounded-t-lg border-t border-hair bg-panel px-4 pt-4 pb-6 shadow-2xl">
          <div className="mb-2 flex items-center justify-between">
            <DialogTitle className="text-[18px] font-[680]">{t("app.allPlaces")}</DialogTitle>
            <button
              type="button"
              onClick={onClose}
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
                  onClick={onClose}
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
              onClick={onClose}
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
      </div>
    </Dialog>
  );
}
