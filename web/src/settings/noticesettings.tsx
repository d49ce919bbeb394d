import { type NoticeChoices, noticeRoutes } from "@yosegi/contract";
import { Unanswered } from "../api/index.ts";
import { FormOf, inputsOf, useCommandForm } from "../forms/index.ts";
import { useNoticeChoices } from "../notices/index.ts";
import { useWorking } from "../people/index.ts";
import { FieldHeads, Row, Section, Stack, Sub, sayDone } from "../ui/index.ts";

const WORDS: Record<NoticeChoices["choices"][number]["what"], string> = {
  "build queued": "A build is queued",
  "parts complete": "The last part of a build arrived",
  "order ready": "An order is ready to ship",
  late: "Something is late",
};

/** What the person who is working is told of. */
export function NoticeSettings() {
  const { person } = useWorking();
  const { data, error } = useNoticeChoices();
  if (!person) return null;
  return (
    <Section title="Notices">
      <Sub>
        What {person.name} is told of: at the bell at the top of the page, and as a message in the outbox.
      </Sub>
      {data ? <ChoicesForm key={person.id} begin={data} /> : <Unanswered error={error} />}
    </Section>
  );
}

const In = inputsOf<NoticeChoices>();

function ChoicesForm({ begin }: { begin: NoticeChoices }) {
  const form = useCommandForm({
    route: noticeRoutes.chooseNotices,
    begin,
    body: (typed: NoticeChoices) => typed,
    done: () => sayDone("Notices saved."),
  });
  return (
    <FormOf form={form} save="Save notices">
      <Stack>
        <FieldHeads
          heads={[
            ["", "290px"],
            ["In the page", "120px"],
            ["By message", "120px"],
          ]}
        />
        {begin.choices.map(({ what }, i) => (
          <Row key={what}>
            <span style={{ width: 290, alignSelf: "center" }}>{WORDS[what]}</span>
            <span style={{ width: 120 }}>
              <In.Tick name={`choices.${i}.page`} aria-label={`${WORDS[what]}: in the page`}>
                {null}
              </In.Tick>
            </span>
            <In.Tick name={`choices.${i}.outbox`} aria-label={`${WORDS[what]}: by message`}>
              {null}
            </In.Tick>
          </Row>
        ))}
        <In.Text label="E-mail address for messages" name="email" width="300px" />
      </Stack>
    </FormOf>
  );
}
