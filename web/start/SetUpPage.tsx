import { useState, type FormEvent } from "react";
import { api } from "../data/api";
import { useSetUpMutation } from "../data/accounts";
import { useStore } from "../data/store";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { FaultLine, Panel } from "../ui/Page";

const year = new Date().getMonth() < 6 ? new Date().getFullYear() - 1 : new Date().getFullYear();
const START = {
  house: "",
  insideDomain: "",
  listDomain: "",
  season: `${year}-${String(year + 1).slice(2)}`,
  name: "",
  email: "",
  password: "",
};

/** The first page of an empty house: what it is called, its domains, its season, its first coordinator. */
export function SetUpPage() {
  const [values, setValues] = useState(START);
  const [setUp, state] = useSetUpMutation();
  const dispatch = useStore();
  const bind = (name: keyof typeof START) => ({
    value: values[name],
    required: true,
    onChange: (event: { target: { value: string } }) =>
      setValues({
        ...values,
        [name]: event.target.value,
        ...(name === "insideDomain" &&
        (values.listDomain === "" || values.listDomain === `lists.${values.insideDomain}`)
          ? { listDomain: event.target.value === "" ? "" : `lists.${event.target.value}` }
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
        <h1 className="text-[26px]!">Set up your house</h1>
        <p className="text-ink-2">
          A school or a club. This is asked once; after it you drop your first roster sheet.
        </p>
      </div>
      <Panel className="p-5">
        <form className="grid gap-4 sm:grid-cols-2" onSubmit={(event) => void submit(event)}>
          <Field label="Name of the house" className="sm:col-span-2" autoFocus {...bind("house")} />
          <Field
            label="Inside domain"
            help="Addresses of staff and students end in it."
            placeholder="school.example"
            {...bind("insideDomain")}
          />
          <Field
            label="List domain"
            help="Addresses of lists end in it."
            placeholder="lists.school.example"
            {...bind("listDomain")}
          />
          <Field
            label="Season"
            help="The school year or club season that is current."
            {...bind("season")}
          />
          <div />
          <Field label="Your name" autoComplete="name" {...bind("name")} />
          <Field label="Your address" type="email" autoComplete="username" {...bind("email")} />
          <Field
            label="Password"
            type="password"
            autoComplete="new-password"
            minLength={10}
            help="At least 10 signs."
            className="sm:col-span-2"
            {...bind("password")}
          />
          <div className="flex flex-col gap-3 sm:col-span-2">
            <FaultLine error={state.error} />
            <Button look="go" type="submit" disabled={state.isLoading}>
              Set up and sign in as coordinator
            </Button>
          </div>
        </form>
      </Panel>
    </main>
  );
}
