import { readPasted } from "./pastedAddresses";
import { useState, type FormEvent, type Dispatch, type SetStateAction } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { isInside } from "@amigo/core/address/isInside";
import { tidyName } from "@amigo/core/naming/pattern";
import type { EditWanted, Making } from "@amigo/contract/edits";
import { useMakingQuery } from "../data/edits";
import { AudienceField } from "../audience/AudienceField";
import { Button } from "../ui/Button";
import { EditDialog } from "../edits/EditDialog";
import { Field } from "../ui/Field";
import { FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { kindOfText } from "../rules/kindOfText";
import { RuleFields } from "../rules/RuleFields";
import type { RulesDraft } from "../rules/rulesDraft";
import { t } from "../texts/lists";
import { PastedAddresses } from "./PastedAddresses";

/** A list without a recipe: by its audience, by people picked by hand, from pasted addresses, or all of these. */
export function NewListPage() {
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const { data: making, error } = useMakingQuery();
  const [key] = useState(() => crypto.randomUUID());
  const [title, setTitle] = useState("");
  const [name, setName] = useState<string>();
  const [short, setShort] = useState("");
  const [description, setDescription] = useState("");
  const [audience, setAudience] = useState(search.get("audience") ?? "");
  const [pasted, setPasted] = useState("");
  const [edited, setEdited] = useState<RulesDraft>();
  const [asked, setAsked] = useState("");
  const [preview, setPreview] = useState<EditWanted>();
  if (error !== undefined) return <FaultPage error={error} />;
  if (making === undefined) return <Loading what={t("lists.theHouse")} />;
  const ownName = name ?? tidyName(title).slice(0, 54);
  const { pieces, good, repaired, bad } = readPasted(pasted);
  const kind = kindOfText(audience);
  // Guardians have outside addresses nearly always; whoever chooses otherwise is left alone.
  const outside = good.some((address) => !isInside(address, making.insideDomains))
    ? { outside: kind === "guardians" || making.everything ? "any" : "guardians" }
    : {};
  const rules: RulesDraft = edited ?? {
    preset: "announcement-only",
    leads: making.everything ? "" : making.self,
    helpers: "",
    adding: "quietly",
    own: outside,
  };
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    setPreview({
      what: "lists",
      aliasUntil: "",
      lists: [
        {
          key,
          keep: good,
          points: {
            title: title.trim(),
            name: ownName,
            audience: audience.trim(),
            ...(short === "" ? {} : { short }),
            ...(description === "" ? {} : { description }),
            ...pointsOf(rules),
          },
        },
      ],
    });
  };
  return (
    <>
      <PageHead title={t("lists.makeAList")} line={t("lists.oneOfItsOwnBeside")} />
      {asked !== "" && (
        <p
          role="status"
          className="mb-3 max-w-3xl rounded-md border border-leaf bg-leaf-soft px-3 py-2"
        >
          {asked}{" "}
          <Link className="text-petrol underline underline-offset-2" to="/requests">
            {t("lists.yourRequests")}
          </Link>
        </p>
      )}
      <Panel className="max-w-3xl p-3 md:p-4 2xl:max-w-none">
        <form
          className="grid items-start gap-x-8 gap-y-3 2xl:grid-cols-[minmax(0,54rem)_minmax(0,1fr)]"
          onSubmit={submit}
        >
          <div className="flex min-w-0 flex-col gap-3">
            <NameFields
              title={title}
              setTitle={setTitle}
              ownName={ownName}
              setName={setName}
              making={making}
            />
            <AudienceField
              label={t("lists.whoBelongsOnItBy")}
              value={audience}
              onChange={setAudience}
              each=""
            />
            <PastedAddresses
              pasted={pasted}
              setPasted={setPasted}
              pieces={pieces}
              good={good}
              repaired={repaired}
              bad={bad}
            />
            <DescriptionFields
              description={description}
              setDescription={setDescription}
              short={short}
              setShort={setShort}
            />
          </div>
          <div className="flex min-w-0 flex-col gap-3">
            <RuleFields
              value={rules}
              onChange={setEdited}
              making={making}
              kind={kind}
              hasCoach={false}
            />
            <div className="flex gap-2">
              <Button
                type="submit"
                look="go"
                disabled={
                  title.trim() === "" ||
                  ownName === "" ||
                  (audience.trim() === "" && good.length === 0)
                }
              >
                {t("lists.preview")}
              </Button>
              <Button onClick={() => void navigate(-1)}>{t("lists.back")}</Button>
            </div>
          </div>
        </form>
      </Panel>
      {preview !== undefined && (
        <EditDialog
          title={t("lists.makeTheList", { title })}
          edit={preview}
          onClose={() => setPreview(undefined)}
          onDone={() => void navigate(`/lists/${key}`)}
          onAsked={(sentence) => {
            setPreview(undefined);
            setAsked(sentence);
          }}
        />
      )}
    </>
  );
}

function NameFields({
  title,
  setTitle,
  ownName,
  setName,
  making,
}: {
  title: string;
  setTitle: Dispatch<SetStateAction<string>>;
  ownName: string;
  setName: Dispatch<SetStateAction<string | undefined>>;
  making: Making;
}) {
  return (
    <div className="grid sm:grid-cols-2 gap-3">
      <Field
        label={t("lists.displayName")}
        autoFocus
        value={title}
        onChange={(event) => setTitle(event.target.value)}
        maxLength={120}
        placeholder={t("lists.parentsCouncil")}
      />
      <Field
        label={t("lists.nameBeforeThe")}
        value={ownName}
        spellCheck={false}
        onChange={(event) => setName(event.target.value.toLowerCase())}
        maxLength={64}
        className="[&_input]:font-mono [&_input]:text-[12.5px]"
        help={ownName === "" ? "" : `${ownName}@${making.listDomain}`}
      />
    </div>
  );
}

function DescriptionFields({
  description,
  setDescription,
  short,
  setShort,
}: {
  description: string;
  setDescription: Dispatch<SetStateAction<string>>;
  short: string;
  setShort: Dispatch<SetStateAction<string>>;
}) {
  return (
    <div className="grid sm:grid-cols-2 gap-3">
      <Field
        label={t("lists.description")}
        value={description}
        onChange={(event) => setDescription(event.target.value)}
        maxLength={500}
        placeholder={t("lists.whoItIsForAnd")}
      />
      <Field
        label={t("lists.shortNamesWithCommasBetween")}
        value={short}
        onChange={(event) => setShort(event.target.value)}
        maxLength={120}
        placeholder={t("lists.council")}
      />
    </div>
  );
}

/** Returns the points of a list that say who runs it and which posting rules it has. */
function pointsOf({ preset, leads, helpers, adding, own }: RulesDraft) {
  return { preset, leads, ...(helpers === "" ? {} : { helpers }), adding, ...own };
}
