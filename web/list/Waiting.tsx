import type { ListPage } from "@amigo/contract/lists";
import { useAgreeMutation } from "../data/lists";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { FaultLine, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { Rich, t } from "../texts/list";

/** Who waits until a lead agrees that they come onto the list. */
export function Waiting({ list }: { list: ListPage }) {
  const [agree, { error, isLoading }] = useAgreeMutation();
  if (list.waiting.length === 0) return null;
  const ids = list.waiting.map(({ id }) => id);
  return (
    <Panel className="px-[18px] py-3.5">
      <h2 className="mb-1.5">
        <Warn>{t("list.addressesWaitUntilALead", { ids: ids.length })}</Warn>
      </h2>
      <ul>
        {list.waiting.map(({ id, address, name, by, reason }) => (
          <li key={id} className="flex items-center gap-2 border-t border-hair-soft py-1.5">
            <span className="min-w-0 flex-1">
              <Address>{address}</Address>
              <span className="block text-[13px] text-ink-2">
                {name === "" ? "" : `${name}; `}
                {by}: {reason}
              </span>
            </span>
            {list.may.change && (
              <>
                <Button
                  className="min-h-[26px]! px-2! text-[13px]"
                  disabled={isLoading}
                  onClick={() => void agree({ id: list.id, ids: [id], agree: true })}
                >
                  <Rich
                    id="list.agreeTo"
                    address={address}
                    span={(chunks) => <span className="sr-only">{chunks}</span>}
                  />
                </Button>
                <Button
                  look="quiet"
                  className="min-h-[26px]! px-2! text-[13px]"
                  disabled={isLoading}
                  onClick={() => void agree({ id: list.id, ids: [id], agree: false })}
                >
                  <Rich
                    id="list.noTo"
                    address={address}
                    span={(chunks) => <span className="sr-only">{chunks}</span>}
                  />
                </Button>
              </>
            )}
          </li>
        ))}
      </ul>
      {list.may.change && ids.length > 1 && (
        <Button
          className="mt-2"
          disabled={isLoading}
          onClick={() => void agree({ id: list.id, ids, agree: true })}
        >
          {t("list.agreeToAll", { ids: ids.length })}
        </Button>
      )}
      <FaultLine error={error} />
    </Panel>
  );
}
