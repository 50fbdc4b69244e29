import { useState, type FormEvent } from "react";
import { Link, useNavigate } from "react-router";
import { useMakePrivateListMutation, usePrivateListsQuery } from "../data/private";
import { Button } from "../ui/Button";
import { Empty, FaultLine, Loading, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { t } from "../texts/mail";

/** The private lists of whoever is signed in: nobody else sees them, they have no address, and nobody on them knows. */
export function PrivateLists() {
  const { data: lists, error } = usePrivateListsQuery();
  const [make, making] = useMakePrivateListMutation();
  const [name, setName] = useState("");
  const navigate = useNavigate();
  if (error !== undefined) return <FaultLine error={error} />;
  if (lists === undefined) return <Loading what={t("mail.yourPrivateLists")} />;
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const answer = await make({ name, people: [] });
    if (answer.data !== undefined) void navigate(`/mail/private/${answer.data.id}`);
  };
  return (
    <div className="flex max-w-3xl flex-col gap-3">
      <form className="flex items-center gap-2" onSubmit={(event) => void submit(event)}>
        <input
          aria-label={t("mail.nameOfANewPrivate")}
          placeholder={t("mail.nameOfANewPrivate")}
          value={name}
          onChange={(event) => setName(event.target.value)}
          maxLength={80}
          className="h-[30px] w-72 max-w-full rounded-md border border-hair bg-panel px-2.5"
        />
        <Button type="submit" look="go" disabled={name.trim() === "" || making.isLoading}>
          {t("mail.makeIt")}
        </Button>
      </form>
      <FaultLine error={making.error} />
      <Panel>
        {lists.length === 0 ? (
          <Empty title={t("mail.youHaveNoPrivateList")}>
            <p>{t("mail.aPrivateListIsYours")}</p>
          </Empty>
        ) : (
          <ul>
            {lists.map(({ id, name: eachName, people, gone }) => (
              <li
                key={id}
                className="flex items-baseline gap-4 border-b border-hair-soft px-4 py-2 last:border-b-0"
              >
                <Link to={`/mail/private/${id}`} className="font-[620] text-petrol hover:underline">
                  {eachName}
                </Link>
                <span className="flex-1 text-[13px] text-ink-2">
                  {t("mail.people", { people })}
                </span>
                {gone > 0 && (
                  <span className="text-[13px]">
                    <Warn>{t("mail.ofThesePeopleNoLongerHere", { gone })}</Warn>
                  </span>
                )}
              </li>
            ))}
          </ul>
        )}
      </Panel>
    </div>
  );
}
