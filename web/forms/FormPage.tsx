import { useParams, useSearchParams } from "react-router";
import { useChangeFormMutation, useFormQuery } from "../data/forms";
import { useMe } from "../data/me";
import { Address } from "../ui/Address";
import { FaultPage, Loading, PageHead } from "../ui/Page";
import { Tabs } from "../ui/Tabs";
import { Answers } from "./Answers";
import { FormEditor } from "./FormEditor";
import { IS_WORDS } from "./FormsPage";
import { Missing } from "./Missing";
import { Share } from "./Share";
import { Rich, t } from "../texts/forms";

/** One sign-up form: what has come in, the form itself, how it is handed out, and who has not answered. */
export function FormPage() {
  const me = useMe();
  const { id = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const { data, error } = useFormQuery(id);
  const [keep, keeping] = useChangeFormMutation();
  if (error !== undefined) return <FaultPage error={error} />;
  if (data === undefined) return <Loading what={t("forms.theForm")} />;
  const show = search.get("show") ?? "answers";
  const { counts } = data;
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <PageHead
        title={data.title}
        line={
          <>
            {IS_WORDS[data.is]}, <Address>{data.url.replace(/^https?:\/\//, "")}</Address>
          </>
        }
      />
      <Tabs
        label={t("forms.partsOfTheForm")}
        value={show}
        onChange={(value) => setSearch({ show: value }, { replace: true })}
        tabs={[
          ["answers", t("forms.answers3", { count: counts.accepted + counts.waiting })],
          ["form", t("forms.theForm2")],
          ["share", t("forms.handOut")],
          ["missing", t("forms.noAnswerYet")],
        ]}
      />
      {show === "answers" && <Answers form={data} />}
      {show === "form" && (
        <>
          {keeping.isSuccess && keeping.data.version === data.version && (
            <p role="status" className="mb-3 rounded-md border border-leaf bg-leaf-soft px-3 py-2">
              <Rich
                id="forms.theFormIsAsYou"
                b={<b className="text-leaf-ink">✓ </b>}
                accepted={counts.accepted}
              />
            </p>
          )}
          <FormEditor
            key={data.version}
            content={data.content}
            slug={data.slug}
            mode={data.mode}
            choices={data.choices}
            all={me.role === "coordinator"}
            mayStep={data.mayStep}
            error={keeping.error}
            busy={keeping.isLoading}
            go={t("forms.saveChanges")}
            onKeep={(wanted) => void keep({ id, version: data.version, ...wanted })}
          />
        </>
      )}
      {show === "share" && <Share form={data} />}
      {show === "missing" && <Missing form={data} />}
    </div>
  );
}
