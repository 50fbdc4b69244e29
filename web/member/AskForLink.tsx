import { useState, type FormEvent } from "react";
import { useMemberLinkMutation } from "../data/member";
import { Rich, t } from "../texts/member";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Panel, FaultLine } from "../ui/Page";

export function AskForLink() {
  const [address, setAddress] = useState("");
  const [ask, { error, isSuccess, isLoading }] = useMemberLinkMutation();
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    void ask(address);
  };
  return (
    <Panel className="p-4">
      {isSuccess ? (
        <p role="status">
          <Rich id="member.ifIsOnAList" address={<b>{address}</b>} />
        </p>
      ) : (
        <form className="flex flex-col gap-3" onSubmit={submit}>
          <Field
            label={t("member.yourAddressAtWhichYou")}
            type="email"
            autoComplete="email"
            value={address}
            onChange={(event) => setAddress(event.target.value)}
            className="[&_input]:h-[44px]"
          />
          <FaultLine error={error} />
          <Button
            look="go"
            className="min-h-[44px]!"
            type="submit"
            disabled={address.trim() === "" || isLoading}
          >
            {t("member.mailMeALink")}
          </Button>
        </form>
      )}
    </Panel>
  );
}
