import { useNavigate } from "react-router";
import type { FormPage, MissingStudent } from "@amigo/contract/forms";
import { useMissingQuery } from "../data/forms";
import { useMe } from "../data/me";
import { useMakePrivateListMutation } from "../data/private";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { Empty, FaultLine, Loading, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";
import { Rich, t } from "../texts/forms";

/** Who has not answered, or can't be written to: by another way, or by a slip on paper. */
export function Missing({ form }: { form: FormPage }) {
  const navigate = useNavigate();
  const me = useMe();
  const { data, error } = useMissingQuery(form.id);
  const [makeList, making] = useMakePrivateListMutation();
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what={t("forms.whoIsMissing")} />;
  if (data.asked === 0)
    return (
      <Empty title={t("forms.noStudentsYet")}>
        <p>{t("forms.onceARosterIsImported")}</p>
      </Empty>
    );
  if (data.students.length === 0)
    return (
      <Empty title={t("forms.everybodyHasAnswered")}>
        <p>{t("forms.forAllStudentsOfIts", { asked: data.asked })}</p>
      </Empty>
    );
  const people = [...new Set(data.students.flatMap(({ by }) => by.map((way) => way.id)))];
  const write = async (): Promise<void> => {
    const { data: made } = await makeList({
      name: t("forms.notAnswered", {
        title: form.title,
        when: moment(new Date().toISOString(), me.timeZone),
      }).slice(0, 80),
      people,
    });
    if (made !== undefined) void navigate(`/mail/write?private=${made.id}`);
  };
  const noWay = data.students.filter(({ by }) => by.length === 0).length;
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <div className="mb-2.5 flex flex-wrap items-center gap-3">
        <p>
          <Rich
            id="forms.ofStudents"
            students={<b className="font-[650]">{data.students.length}</b>}
            asked={data.asked}
            unreachable={
              noWay > 0 && (
                <>
                  ; <Warn>{t("forms.canOnlyBeReachedOn", { noWay })}</Warn>
                </>
              )
            }
          />
        </p>
        <span className="ml-auto flex gap-2">
          <a
            className="inline-flex min-h-[30px] items-center rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol"
            href={`/api/forms/${form.id}/slips.pdf`}
          >
            {t("forms.slipsWithPersonalCodesAs")}
          </a>
          {people.length > 0 && (
            <Button look="go" disabled={making.isLoading} onClick={() => void write()}>
              {t("forms.writeToPeople", { people: people.length })}
            </Button>
          )}
        </span>
      </div>
      <FaultLine error={making.error} />
      <Panel scrolls={t("forms.studentsWithoutAnAnswer")} className="lg:min-h-0 lg:flex-1">
        <MissingTable data={data} />
      </Panel>
    </div>
  );
}

function MissingTable({ data }: { data: { students: MissingStudent[]; asked: number } }) {
  return (
    <table className="wide-table w-full">
      <thead className="sticky top-0 bg-panel">
        <tr className="border-b border-hair text-left text-[12px] text-ink-3">
          {[t("forms.student"), t("forms.class"), t("forms.why"), t("forms.canBeReachedBy")].map(
            (title) => (
              <th key={title} className="px-4 py-1.5 font-[500]">
                {title}
              </th>
            ),
          )}
        </tr>
      </thead>
      <tbody>
        {data.students.map(({ id, name, classes, why, by }) => (
          <tr key={id} className="border-b border-hair-soft align-baseline last:border-b-0">
            <td className="px-4 py-1.5 font-[620]">{name}</td>
            <td className="px-4 py-1.5 text-ink-2">{classes.join(", ")}</td>
            <td className="px-4 py-1.5">
              {why === "no answer" ? (
                t("forms.noAnswer")
              ) : (
                <Warn>{t("forms.mailToTheirAddressBounces")}</Warn>
              )}
            </td>
            <td className="px-4 py-1.5">
              {by.length === 0 ? (
                <Warn>{t("forms.onlyOnPaper")}</Warn>
              ) : (
                by.map(({ who, address }) => (
                  <span key={`${who} ${address}`} className="block">
                    {who} <Address>{address}</Address>
                  </span>
                ))
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
