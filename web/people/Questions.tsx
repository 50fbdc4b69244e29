import { Link } from "react-router";
import { may } from "@amigo/core/access/may";
import type { QuestionLine } from "@amigo/contract/people";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Empty, FaultLine, Panel } from "../ui/Page";
import { useAnswerMutation } from "../data/people";
import { t } from "../texts/people";

/** What only a person can settle: both sides next to each other. An answer is remembered and not asked again. */
export function Questions({ questions }: { questions: readonly QuestionLine[] }) {
  const me = useMe();
  const [answer, answering] = useAnswerMutation();
  if (questions.length === 0)
    return (
      <Empty title={t("people.noQuestionIsOpen")}>
        <p>{t("people.whenRowsCouldBeOne")}</p>
      </Empty>
    );
  return (
    <div className="flex flex-col gap-3">
      <FaultLine error={answering.error} />
      {questions.map((question) => (
        <Panel key={question.key} className="px-4 py-3.5">
          <article aria-label={question.about}>
            <h2>{question.about}</h2>
            <div className="mt-2 grid grid-cols-[repeat(auto-fit,minmax(min(240px,100%),1fr))] gap-2.5">
              {question.sides.map(({ title, lines, where, source }, at) => (
                <div key={`${at} ${title}`} className="rounded-md border border-hair px-3 py-2">
                  <b
                    className={`block font-[620] wrap-anywhere ${title.includes("@") ? "mono" : ""}`}
                  >
                    {title}
                  </b>
                  {lines.map((line) => (
                    <span key={line} className="block text-[13px] text-ink-2 wrap-anywhere">
                      {line}
                    </span>
                  ))}
                  {where !== "" &&
                    (source === null || !may(me.role, "see sources") ? (
                      <span className="block text-[13px] text-ink-3">{where}</span>
                    ) : (
                      <Link
                        to={`/sources/${source}`}
                        className="block text-[13px] text-petrol underline underline-offset-2"
                      >
                        {where}
                      </Link>
                    ))}
                </div>
              ))}
            </div>
            <div className="mt-3 flex flex-wrap items-center gap-2">
              {question.choices.map(({ id, label }) => (
                <Button
                  key={id}
                  disabled={answering.isLoading}
                  onClick={() => void answer({ key: question.key, choice: id })}
                  className={label.includes("@") ? "mono" : ""}
                >
                  {label}
                </Button>
              ))}
              <span className="text-[13px] text-ink-3">
                {t("people.untilThen", {
                  meanwhile: question.meanwhile,
                })}
              </span>
            </div>
          </article>
        </Panel>
      ))}
    </div>
  );
}
