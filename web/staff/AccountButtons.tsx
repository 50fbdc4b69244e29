import type { Dispatch, SetStateAction } from "react";
import type { AccountLine } from "@amigo/contract/staff";
import { type useInviteAgainMutation, type useEndAccountMutation } from "../data/staff";
import { Rich, t } from "../texts/ui";
import { Button } from "../ui/Button";

export function AccountButtons({
  account,
  inviting,
  again,
  setSaid,
  ending,
  end,
  setEditing,
}: {
  account: AccountLine;
  inviting: ReturnType<typeof useInviteAgainMutation>[1];
  again: ReturnType<typeof useInviteAgainMutation>[0];
  setSaid: Dispatch<SetStateAction<string>>;
  ending: ReturnType<typeof useEndAccountMutation>[1];
  end: ReturnType<typeof useEndAccountMutation>[0];
  setEditing: Dispatch<SetStateAction<"new" | AccountLine | undefined>>;
}) {
  return (
    <td className="px-4 py-2 text-right whitespace-nowrap">
      {account.mayChange && (
        <span className="flex justify-end gap-2">
          {account.state === "invited" && (
            <Button
              look="quiet"
              disabled={inviting.isLoading}
              onClick={() =>
                void again(account.id).then(({ error: failed }) => {
                  if (failed === undefined)
                    setSaid(t("ui.wasMailedTheInvitationOnce", { name: account.name }));
                })
              }
            >
              <Rich id="ui.inviteAgain" name={<span className="sr-only"> {account.name}</span>} />
            </Button>
          )}
          {account.state === "ended" ? (
            <Button
              disabled={ending.isLoading}
              onClick={() => void end({ id: account.id, ended: false })}
            >
              <Rich id="ui.letItBeAgain" name={<span className="sr-only">: {account.name}</span>} />
            </Button>
          ) : (
            <Button onClick={() => setEditing(account)}>
              <Rich id="ui.change" name={<span className="sr-only"> {account.name}</span>} />
            </Button>
          )}
        </span>
      )}
    </td>
  );
}
