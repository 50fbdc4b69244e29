import { widthOf } from "./GridCell";
import { say } from "@amigo/language/say";
import { INTAKE_COLUMNS, INTAKE_TITLES } from "@amigo/core/intake/intake";
import { t } from "../texts/intakes";

export function GridHead() {
  return (
    <div
      role="row"
      aria-rowindex={1}
      className="sticky top-0 z-10 flex border-b border-hair bg-petrol-soft font-[560] text-petrol"
    >
      <div role="columnheader" className="w-10 shrink-0 px-2 py-1.5 text-right">
        <span className="sr-only">{t("intakes.row")}</span>
      </div>
      {INTAKE_COLUMNS.map((name, at) => (
        <div
          key={name}
          role="columnheader"
          className={`${widthOf(at)} shrink-0 border-l border-hair px-2 py-1.5`}
        >
          {say(INTAKE_TITLES[name])}
        </div>
      ))}
      <div role="columnheader" className="w-[74px] shrink-0 border-l border-hair px-2 py-1.5">
        {t("intakes.approve")}
      </div>
      <div role="columnheader" className="min-w-0 flex-1 border-l border-hair px-2 py-1.5">
        {t("intakes.result")}
      </div>
    </div>
  );
}
