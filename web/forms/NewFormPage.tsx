import { useNavigate } from "react-router";
import { useMe } from "../data/me";
import { useFormsQuery, useMakeFormMutation, type FormContent } from "../data/forms";
import { FaultPage, Loading, PageHead } from "../ui/Page";
import { FormEditor } from "./FormEditor";
import { t } from "../texts/forms";

/** What most houses ask for. */
const USUAL: FormContent = {
  parts: ["class", "relationship", "second guardian", "consent"],
  cohorts: [],
  questions: [],
  unknownChild: "ask",
  opensOn: "",
  closesOn: "",
  words: [
    {
      language: "en",
      title: t("forms.signUpForMail"),
      intro: t("forms.tellUsWhereToWrite"),
      consent: t("forms.theSchoolMayKeepThis"),
      labels: {},
      questions: [],
    },
  ],
};

/** Making a form: everything on one page, with what families will see beside it. */
export function NewFormPage() {
  const me = useMe();
  const navigate = useNavigate();
  const { data, error } = useFormsQuery();
  const [make, making] = useMakeFormMutation();
  if (error !== undefined) return <FaultPage error={error} />;
  if (data === undefined) return <Loading what={t("forms.theClasses")} />;
  const coordinates = me.role === "coordinator";
  // A lead offers what they lead; a coordinator begins with everything.
  const begin = coordinates ? USUAL : { ...USUAL, cohorts: data.choices.map(({ key }) => key) };
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <PageHead title={t("forms.makeAForm")} line={t("forms.nothingCanBeFilledIn")} />
      <FormEditor
        content={begin}
        slug=""
        mode="ask"
        choices={data.choices}
        all={coordinates}
        mayStep={coordinates}
        error={making.error}
        busy={making.isLoading}
        go={t("forms.makeTheForm")}
        onKeep={(wanted) =>
          void make(wanted).then((answer) => {
            if (answer.data !== undefined) void navigate(`/forms/${answer.data.id}?show=share`);
          })
        }
      />
    </div>
  );
}
