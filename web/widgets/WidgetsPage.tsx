import { useState, type ReactNode } from "react";
import { isStretched, stretchWords } from "../texts/staff";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { LongChoice } from "../ui/LongChoice";
import { Copy } from "../ui/Copy";
import { FeedAddress } from "../ui/FeedAddress";
import { FilesField } from "../ui/FilesField";
import { DayField } from "../ui/DayField";
import { DaysAndTimes } from "../ui/DaysAndTimes";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { Empty, FaultLine, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { KindField, PlaceFields } from "../ui/PlaceFields";
import { Progress } from "../ui/Progress";
import { SearchField } from "../ui/SearchField";
import { Count, Minus, Plus, Tilde, Warn } from "../ui/Signs";
import { StepBar } from "../ui/StepBar";
import { Tabs } from "../ui/Tabs";
import { WideTable } from "../ui/WideTable";

/** For developers alone (`npm run dev`, then /widgets): every widget of web/ui in its states. */
export function WidgetsPage() {
  return (
    <main className="mx-auto max-w-5xl p-5">
      <PageHead title="Widgets" line="Every widget of web/ui in its states" />
      <div className="grid gap-3.5 md:grid-cols-2">
        <Words />
        <Buttons />
        <Feeds />
        <AddedFiles />
        <Fields />
        <Choices />
        <Signs />
        <Waiting />
        <Faults />
        <Places />
        <Tables />
      </div>
    </main>
  );
}

function Shown({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="min-w-0">
      <Panel className="flex flex-col items-start gap-3 p-4">
        <h2>{title}</h2>
        {children}
      </Panel>
    </section>
  );
}

/** Shows all pages with their words stretched: for finding what is in no catalogue, or has too little room. */
function Words() {
  return (
    <Shown title="Words on all pages">
      <Button onClick={() => stretchWords(!isStretched())}>
        {isStretched() ? "Show words as they are" : "Show words stretched"}
      </Button>
    </Shown>
  );
}

function Feeds() {
  return (
    <Shown title="FeedAddress">
      {["", "https://amigo.copperwheel.example/calendar/secret.ics"].map((url) => (
        <FeedAddress
          key={url}
          url={url}
          isBusy={false}
          onMake={() => undefined}
          onEnd={() => undefined}
        />
      ))}
    </Shown>
  );
}

function AddedFiles() {
  return (
    <Shown title="FilesField">
      <FilesField
        files={[{ id: "1", name: "Kit list.txt", size: 1200 }]}
        pathOf={() => "#"}
        hint="or drop them here"
        isAdding={false}
        onAdd={() => undefined}
        onDrop={() => undefined}
      />
    </Shown>
  );
}

function Buttons() {
  const [open, setOpen] = useState(false);
  return (
    <Shown title="Button, Copy, Modal">
      <div className="flex flex-wrap gap-2">
        <Button look="go">Send to 53 addresses</Button>
        <Button look="go" disabled>
          Send
        </Button>
        <Button>Preview</Button>
        <Button disabled>Preview</Button>
        <Button look="quiet">Find people</Button>
        <Button aria-pressed>Watch</Button>
        <Copy text="ml-wire-parents-2627@lists.copperwheel.example" />
      </div>
      <Button onClick={() => setOpen(true)}>Open a dialog</Button>
      {open && (
        <Modal title="Close Wire Walk" onClose={() => setOpen(false)}>
          <p className="mb-4">Nobody can write to it any more. Its archive stays.</p>
          <div className="flex justify-end gap-2">
            <Button onClick={() => setOpen(false)}>Cancel</Button>
            <Button look="go" onClick={() => setOpen(false)}>
              Close the list
            </Button>
          </div>
        </Modal>
      )}
    </Shown>
  );
}

function Fields() {
  const [text, setText] = useState("Wire Walk, guardians");
  const [day, setDay] = useState("2026-09-01");
  const [moment, setMoment] = useState("2026-09-01T16:30");
  const [sought, setSought] = useState("wire");
  return (
    <Shown title="Field, DayField, SearchField">
      <Field label="Title" value={text} onChange={(event) => setText(event.target.value)} />
      <Field label="Title" help="As families read it." placeholder="Wire Walk, guardians" />
      <Field label="Title" disabled value="Trapeze Two" readOnly />
      <DayField label="Last day" value={day} onChange={setDay} min="2026-08-01" />
      <DayField label="Last day" value="" onChange={setDay} help="Without one, it stays." />
      <DayField label="When" value={moment} onChange={setMoment} withTime inline />
      <SearchField
        label="Search"
        placeholder="Class, list or coach"
        value={sought}
        onChange={setSought}
      />
    </Shown>
  );
}

const SITES = [
  { value: "", name: "All sites" },
  { value: "millyard", name: "Millyard" },
  { value: "harbour", name: "Harbour Loft" },
] as const;

const COHORTS = Array.from({ length: 2_000 }, (_, at) => ({
  value: String(at),
  name: `Class ${at + 1}`,
}));

function Choices() {
  const [cohort, setCohort] = useState("0");
  const [site, setSite] = useState<(typeof SITES)[number]["value"]>("");
  const [tab, setTab] = useState("members");
  const [days, setDays] = useState<number[]>([1, 3]);
  const [times, setTimes] = useState("07:30, 16:00");
  return (
    <Shown title="Choice, LongChoice, Tabs, DaysAndTimes">
      <div className="flex flex-wrap gap-2">
        <Choice label="Site" value={site} onChange={setSite} options={SITES} />
        <Choice small label="Site" value={site} onChange={setSite} options={SITES} />
        <LongChoice label="Class" value={cohort} onChange={setCohort} options={COHORTS} />
      </div>
      <Tabs
        label="About this list"
        value={tab}
        tabs={[
          ["members", "Members"],
          ["posts", "Posts"],
        ]}
        onChange={setTab}
      />
      <DaysAndTimes
        days={days}
        times={times}
        zone="Europe/Copenhagen"
        onDays={setDays}
        onTimes={setTimes}
      />
    </Shown>
  );
}

function Signs() {
  return (
    <Shown title="Signs, StepBar, Address">
      <p className="flex flex-wrap items-center gap-3">
        <Plus count={3} />
        <Plus count={0} />
        <Minus count={2} />
        <Tilde count={1} />
        <Count of={7} />
        <Warn>5 families without a working address</Warn>
      </p>
      <div className="w-full">
        <StepBar count={28} joins={0} leaves={0} />
      </div>
      <div className="w-full">
        <StepBar count={28} joins={4} leaves={2} />
      </div>
      <div className="w-full">
        <StepBar count={0} joins={28} leaves={0} />
      </div>
      <Address>juno.abara@copperwheel.example</Address>
    </Shown>
  );
}

function Waiting() {
  return (
    <Shown title="Loading, Progress, Empty">
      <Loading what="The board" />
      <div className="w-full">
        <Progress what="Bringing in step" onStop={() => undefined} />
      </div>
      <Empty title="No list found">
        <p>Nothing on the board matches. Try fewer letters.</p>
      </Empty>
    </Shown>
  );
}

/** A refusal as the API answers it: problem details by RFC 9457. */
const REFUSED = {
  status: 409,
  data: {
    type: "rounds/changed",
    title: "Somebody else has changed this meanwhile. Look at it again.",
    status: 409,
  },
};

function Faults() {
  return (
    <Shown title="FaultLine, FaultPage">
      <FaultLine error={REFUSED} />
      <FaultLine error={{ status: "FETCH_ERROR", error: "TypeError" }} />
      <FaultPage error={REFUSED} />
    </Shown>
  );
}

function Places() {
  const [place, setPlace] = useState({
    timeZone: "Europe/Copenhagen",
    country: "DK",
    language: "en",
  });
  const [kind, setKind] = useState<Parameters<typeof KindField>[0]["value"]>("school");
  return (
    <Shown title="PlaceFields, KindField">
      <KindField value={kind} onChange={setKind} />
      <PlaceFields value={place} onChange={(part) => setPlace({ ...place, ...part })} />
    </Shown>
  );
}

function Tables() {
  return (
    <Shown title="WideTable">
      <WideTable label="Lists">
        <thead>
          <tr>
            <th className="px-3 py-1.5 text-left">List</th>
            <th className="px-3 py-1.5 text-right">Members</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <td className="px-3 py-1.5">Wire Walk, guardians</td>
            <td className="px-3 py-1.5 text-right">8</td>
          </tr>
        </tbody>
      </WideTable>
    </Shown>
  );
}
