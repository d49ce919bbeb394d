import { useQuery } from "@tanstack/react-query";
import { PAPER_WORDS, type PaperWord, paperRoutes } from "@yosegi/contract";
import { DATE_STYLES, type DateStyle } from "@yosegi/core";
import { useState } from "react";
import { asking, Unanswered } from "../api/index.ts";
import { FormDialog, inputsOf } from "../forms/index.ts";
import { Button, Fact, Facts, Row, Section, Stack, Sub, sayDone } from "../ui/index.ts";

/** Where each text stands in the form, with what it is called there. */
const GROUPS: readonly (readonly [title: string, words: readonly PaperWord[]])[] = [
  ["Quote", ["quote title", "quote opening", "quote closing", "valid until"]],
  [
    "Order confirmation",
    ["confirmation title", "confirmation opening", "confirmation closing", "delivery date"],
  ],
  ["Delivery note", ["delivery note title", "delivery note opening", "delivery note closing", "to follow"]],
  ["Pro forma bill", ["bill title", "bill opening", "bill closing"]],
  [
    "Credit",
    ["credit title", "credit opening", "credit closing", "restocking fee", "damaged or missing", "shipment"],
  ],
  ["Account of work done", ["account title", "account opening", "account closing"]],
  [
    "Words on all papers",
    [
      "date",
      "order",
      "reference",
      "deliver to",
      "item",
      "quantity",
      "price",
      "less",
      "total",
      "tax",
      "total with tax",
      "terms",
      "parcels",
      "weight",
      "lot",
      "serial number",
      "in part",
    ],
  ],
  [
    "Letters",
    [
      "letter opening",
      "quote letter",
      "confirmation letter",
      "shipment letter",
      "credit letter",
      "rework letter",
      "letter closing",
    ],
  ],
];

const isLong = (word: PaperWord): boolean => /(opening|closing|letter)$/.test(word);

interface PapersDraft {
  dates: DateStyle;
  /** In the order of the words: their names have spaces, which no field's name has. */
  words: string[];
}

const WORDS = Object.keys(PAPER_WORDS) as PaperWord[];
const In = inputsOf<PapersDraft>();
const at = (word: PaperWord): `words.${number}` => `words.${WORDS.indexOf(word)}`;

/** What papers and letters for customers say, and how they write dates. */
export function PaperSettings() {
  const { data, error } = useQuery(asking(paperRoutes.paperSettings, {}));
  const [changing, setChanging] = useState(false);
  if (!data) return <Unanswered error={error} />;
  const own = WORDS.filter((word) => data.words[word] !== PAPER_WORDS[word]);
  return (
    <Section
      title="Papers"
      more={
        <Button look="link" aria-label="Change papers" onPress={() => setChanging(true)}>
          Change
        </Button>
      }
    >
      <Facts>
        <Fact name="Dates">
          <span data-paper>{data.dates}</span>
        </Fact>
        <Fact name="Texts">{own.length === 0 ? "as delivered" : `${own.length} of your own`}</Fact>
        {data.words.sender && <Fact name="Sender">{data.words.sender}</Fact>}
      </Facts>
      <FormDialog
        title="Papers for customers"
        isOpen={changing}
        onClose={() => setChanging(false)}
        width="860px"
        save="Save"
        route={paperRoutes.setPapers}
        version={data.version}
        begin={{ dates: data.dates, words: WORDS.map((word) => data.words[word]) }}
        body={({ dates, words }: PapersDraft) => ({
          dates,
          words: Object.fromEntries(WORDS.map((word, i) => [word, words[i] ?? ""])),
        })}
        fieldOf={(path) => fieldOfWord(path)}
        done={() => sayDone("Papers saved.")}
      >
        <Stack>
          <Row>
            <In.Choice
              label="Dates"
              name="dates"
              width="180px"
              options={DATE_STYLES.map((style) => ({ value: style, label: style }))}
            />
            <In.Text lines label="Sender, under the company's name" name={at("sender")} width="420px" />
          </Row>
          <Sub>
            {
              "{name}, {number}, {order}, {person} and {company} are filled in. A text that is empty is left out."
            }
          </Sub>
          {GROUPS.map(([title, words]) => (
            <Section key={title} title={title}>
              <Row>
                {words.map((word) => (
                  <In.Text
                    key={word}
                    lines={isLong(word)}
                    label={labelOf(word)}
                    name={at(word)}
                    width={isLong(word) ? "380px" : "180px"}
                  />
                ))}
              </Row>
            </Section>
          ))}
        </Stack>
      </FormDialog>
    </Section>
  );
}

/** A word's name as a label: what it is of stands in its heading. */
const labelOf = (word: PaperWord): string => `${word.charAt(0).toUpperCase()}${word.slice(1)}`;

/** The field in which a word stands that what was sent names. */
function fieldOfWord(path: string): string {
  const word = path.replace(/^words\./, "") as PaperWord;
  return path.startsWith("words.") && WORDS.includes(word) ? at(word) : path;
}
