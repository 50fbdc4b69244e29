import type { ListPage as List } from "@amigo/contract/lists";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { Rich, t } from "../texts/list";
import { Address } from "../ui/Address";
import { Copy } from "../ui/Copy";
import { dayOf } from "../ui/time";
import { OwnShort } from "./OwnShort";

export function LedBy({ list, isOpen }: { list: List; isOpen: boolean }) {
  return (
    <div className="mb-3 flex flex-wrap items-center gap-x-2.5 gap-y-1 text-[13px] text-ink-2">
      <span className="mono text-[15px]! font-[560] text-ink select-all">{list.address}</span>
      <Copy text={list.address} />
      {list.short !== "" && (
        <span>
          <Rich
            id="list.alsoWhenYouType"
            short={<b className="font-[620] text-ink">{list.short}</b>}
          />
        </span>
      )}
      {isOpen && <OwnShort list={list} />}
      <span>
        {list.leads.length === 0
          ? t("list.noLeadWithAnAccount")
          : t("list.ledBy", { list: say(each(list.leads)) })}
        {list.recipe !== null && (
          <>
            {" "}
            <Rich id="list.byRecipe" name={<b className="font-[620]">{list.recipe.name}</b>} />
          </>
        )}{" "}
        · {list.site}
        {list.site === "" ? "" : ", "}
        {list.season}
      </span>
      {list.aliases.map(({ name, until }) => (
        <span key={name} className="block w-full">
          <Rich
            id="list.worksUntil"
            name={<Address>{`${name}@${list.address.split("@")[1] ?? ""}`}</Address>}
            when={dayOf(until)}
            copy={<Copy text={`${name}@${list.address.split("@")[1] ?? ""}`} />}
          />
        </span>
      ))}
      {list.description !== "" && (
        <span className="block w-full text-[14px] text-ink">{list.description}</span>
      )}
    </div>
  );
}
