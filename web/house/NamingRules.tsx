import { useState, type FormEvent } from "react";
import type { NamingSettings } from "@amigo/contract/edits";
import { useChangeNamingMutation, useNamingQuery } from "../data/edits";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { FaultLine, Panel } from "../ui/Page";

/** What names have to keep to: how long they may be, which the house keeps for itself, whether the convention binds. */
export function NamingRules() {
  const { data, error } = useNamingQuery();
  if (error !== undefined) return <FaultLine error={error} />;
  return data === undefined ? null : <Rules key={JSON.stringify(data)} settings={data} />;
}

function Rules({ settings }: { settings: NamingSettings }) {
  const [limit, setLimit] = useState(String(settings.nameLimit));
  const [reserved, setReserved] = useState(settings.reserved.join(", "));
  const [convention, setConvention] = useState(settings.convention);
  const [change, changing] = useChangeNamingMutation();
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    void change({
      nameLimit: Number(limit),
      reserved: reserved.split(/[\s,;]+/).filter((name) => name !== ""),
      convention,
    });
  };
  return (
    <Panel className="px-4 py-3.5">
      <h2 className="mb-2">What names keep to</h2>
      <form className="flex flex-col gap-2" onSubmit={submit}>
        <p>
          The convention{" "}
          <Choice
            small
            label="The convention"
            value={convention}
            onChange={setConvention}
            options={[
              { value: "advises", name: "advises" },
              { value: "binds", name: "binds" },
            ]}
          />
          :{" "}
          {convention === "advises"
            ? "a list may have another name, and says so."
            : "no list gets another name than it makes."}
        </p>
        <Field
          label="Signs that are pleasant to type, at most"
          type="number"
          min={8}
          max={54}
          value={limit}
          onChange={(event) => setLimit(event.target.value)}
        />
        <Field
          label="Names kept for the house itself"
          value={reserved}
          onChange={(event) => setReserved(event.target.value)}
          placeholder="office, board, press"
          help="Beside those of RFC 2142, such as postmaster."
        />
        <FaultLine error={changing.error} />
        <Button type="submit" className="self-start" disabled={changing.isLoading}>
          Keep these rules
        </Button>
      </form>
    </Panel>
  );
}
