import { useState, type FormEvent } from "react";
import { LANGUAGES } from "@amigo/core/text/place";
import { api } from "../data/api";
import { useSetUpMutation } from "../data/accounts";
import { useStore } from "../data/store";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { KindField, PlaceFields, type Place } from "../ui/PlaceFields";
import { FaultLine, Panel } from "../ui/Page";
import { t } from "../texts/start";

const year = new Date().getMonth() < 6 ? new Date().getFullYear() - 1 : new Date().getFullYear();
const START = {
  house: "",
  insideDomain: "",
  listDomain: "",
  kind: "school" as "school" | "club",
  ...placeHere(),
  season: `${year}-${String(year + 1).slice(2)}`,
  name: "",
  email: "",
  password: "",
  code: "",
};

/** What the browser says of where it is. */
function placeHere(): Place {
  const { timeZone } = Intl.DateTimeFormat().resolvedOptions();
  const { region = "", language } = new Intl.Locale(navigator.language);
  return { timeZone, country: region, language: LANGUAGES.includes(language) ? language : "en" };
}

/** The first page of an empty house: what it is called, its domains, its season, its first coordinator. */
export function SetUpPage({ needsCode }: { needsCode: boolean }) {
  const [values, setValues] = useState(START);
  const [setUp, state] = useSetUpMutation();
  const dispatch = useStore();
  const bind = (name: Exclude<keyof typeof START, "kind">) => ({
    value: values[name],
    required: true,
    onChange: (event: { target: { value: string } }) =>
      setValues({
        ...values,
        [name]: event.target.value,
        ...(name === "insideDomain" &&
        (values.listDomain === "" || values.listDomain === `lists.${values.insideDomain}`)
          ? {
              listDomain: event.target.value === "" ? "" : `lists.${event.target.value}`,
            }
          : {}),
      }),
  });
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const answer = await setUp(values);
    if (answer.error === undefined) dispatch(api.util.resetApiState());
  };
  return (
    <main className="mx-auto flex min-h-dvh max-w-2xl flex-col justify-center gap-4 p-6">
      <div>
        <h1 className="text-[26px]!">{t("start.setUpYour", { kind: values.kind })}</h1>
        <p className="text-ink-2">{t("start.youCanChangeAllOf")}</p>
      </div>
      <Panel className="p-5">
        <form className="grid gap-4 sm:grid-cols-2" onSubmit={(event) => void submit(event)}>
          <KindField
            className="sm:col-span-2"
            value={values.kind}
            onChange={(kind) => setValues({ ...values, kind })}
          />
          <Field
            label={t("start.nameOfThe", { kind: values.kind })}
            className="sm:col-span-2"
            autoFocus
            {...bind("house")}
          />
          <Field
            label={t("start.insideDomain")}
            help={t("start.addressesOfStaffAndStudents")}
            placeholder={t("start.schoolExample")}
            {...bind("insideDomain")}
          />
          <Field
            label={t("start.listDomain")}
            help={t("start.addressesOfListsEndIn")}
            placeholder={t("start.listsSchoolExample")}
            {...bind("listDomain")}
          />
          <Field
            label={t("start.season")}
            help={t("start.theSchoolYearOrClub")}
            {...bind("season")}
          />
          <PlaceFields
            value={values}
            onChange={(part) => setValues((before) => ({ ...before, ...part }))}
          />
          <Field label={t("start.yourName")} autoComplete="name" {...bind("name")} />
          <Field
            label={t("start.yourEmailAddress")}
            type="email"
            autoComplete="username"
            {...bind("email")}
          />
          <Field
            label={t("start.password")}
            type="password"
            autoComplete="new-password"
            minLength={10}
            help={t("start.atLeast10Characters")}
            className="sm:col-span-2"
            {...bind("password")}
          />
          {needsCode && (
            <Field
              label={t("start.setUpCode")}
              help={t("start.itWasPrintedWhereAmigo")}
              className="sm:col-span-2"
              autoComplete="off"
              {...bind("code")}
            />
          )}
          <div className="flex flex-col gap-3 sm:col-span-2">
            <FaultLine error={state.error} />
            <Button look="go" type="submit" disabled={state.isLoading}>
              {t("start.setUpAndSignIn")}
            </Button>
          </div>
        </form>
      </Panel>
    </main>
  );
}
