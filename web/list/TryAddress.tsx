import { useState, type FormEvent } from "react";
import { Button } from "../ui/Button";
import { FaultLine, Panel } from "../ui/Page";
import { useTryMutation } from "../data/lists";

/** "What happens if this person writes here?", answered by the same rules as real mail. */
export function TryAddress({ id }: { id: string }) {
  const [address, setAddress] = useState("");
  const [signedIn, setSignedIn] = useState(false);
  const [ask, { data, error, isLoading, reset }] = useTryMutation();
  const submit = (event: FormEvent): void => { event.preventDefault(); void ask({ id, address, signedIn }); };
  return (
    <Panel className="px-[18px] py-3">
      <h2 className="mb-2">Try an address</h2>
      <form className="flex gap-2" onSubmit={submit}>
        <input aria-label="Address to try" placeholder="somebody@school.example" value={address} onChange={(event) => { setAddress(event.target.value); reset(); }} className="mono h-[30px] min-w-0 flex-1 rounded-md border border-hair bg-panel px-2.5" />
        <Button type="submit" disabled={address.trim() === "" || isLoading}>Try</Button>
      </form>
      <label className="mt-2 flex items-center gap-2 text-[13px] text-ink-2"><input type="checkbox" checked={signedIn} onChange={(event) => { setSignedIn(event.target.checked); reset(); }} />signed in, here or in their mail program</label>
      <FaultLine error={error} />
      {data !== undefined && (
        <div role="status" className="mt-2">
          <p><b className={data.outcome === "goes out" ? "text-leaf-ink" : "text-brick"}>{data.outcome === "goes out" ? "✓ Goes out." : "− Returned."}</b> {data.outcome === "goes out" ? "Every member gets a copy." : `${data.who} would be told why.`}</p>
          <ol className="list-decimal pl-[18px] text-[13px] text-ink-2">{data.reasons.map((reason) => <li key={reason}>{reason}</li>)}</ol>
        </div>
      )}
    </Panel>
  );
}
