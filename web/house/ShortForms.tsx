import type { NamesTried } from "@amigo/contract/naming";
import { t } from "../texts/house";
import { Button } from "../ui/Button";
import { Panel } from "../ui/Page";

export function ShortForms({
  shorts,
  written,
  onWrite,
}: {
  shorts: NamesTried["shorts"];
  written: Record<string, string | null>;
  onWrite: (shorts: Record<string, string | null>) => void;
}) {
  const proposed = shorts.filter(({ name, chosen }) => !chosen && written[name] === undefined);
  return (
    <Panel className="px-4 py-3.5">
      <h2 className="mb-1">{t("house.shortForms")}</h2>
      <p className="mb-1 text-[13px] text-ink-2">{t("house.howNamesAreShortenedGrey")}</p>
      {proposed.length > 0 && (
        <Button
          className="mb-2"
          onClick={() =>
            onWrite({
              ...written,
              ...Object.fromEntries(proposed.map(({ name, short }) => [name, short])),
            })
          }
        >
          {t("house.useSuggestions", { proposed: proposed.length })}
        </Button>
      )}
      <ul>
        {shorts.map(({ name, short, chosen }) => (
          <li key={name} className="flex items-center gap-2 border-t border-hair-soft py-1">
            <span className="min-w-0 flex-1 truncate">{name}</span>
            <input
              aria-label={t("house.shortFormOf", { name })}
              value={written[name] ?? (written[name] === null || !chosen ? "" : short)}
              placeholder={short}
              spellCheck={false}
              onChange={(event) =>
                onWrite({
                  ...written,
                  [name]: event.target.value === "" ? null : event.target.value.toLowerCase(),
                })
              }
              className="mono h-7 w-32 rounded border border-hair bg-panel px-2"
            />
          </li>
        ))}
      </ul>
    </Panel>
  );
}
