import { useQuery } from "@tanstack/react-query";
import { type ItemRow, type PieceCard, pieceRoutes } from "@yosegi/contract";
import { useState } from "react";
import { useWatch } from "react-hook-form";
import { Link } from "react-router";
import { asking } from "../api/index.ts";
import { CustomValues } from "../customfields/index.ts";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog } from "../forms/index.ts";
import {
  Button,
  Fact,
  Facts,
  type Format,
  Named,
  Row,
  Section,
  SheetTable,
  Short,
  Stack,
  Sub,
  sayDone,
  useFormat,
} from "../ui/index.ts";

interface Piece {
  item: number;
  lot: string;
  serial: string;
}

/** The card of a lot or unit. */
export const usePiece = (piece: Piece) =>
  useQuery({ ...asking(pieceRoutes.piece, { query: piece }), enabled: piece.lot + piece.serial !== "" });

/** What is known of a lot or unit: when it was made, until when it is good, its warranty, and what is inside. */
export function PieceFacts({ card }: { card: PieceCard }) {
  const [editing, setEditing] = useState<"facts" | "contents" | null>(null);
  const close = () => setEditing(null);
  return (
    <>
      <Known card={card} onEdit={() => setEditing("facts")} />
      {card.serial !== "" && (card.contents.length > 0 || card.build === null) && (
        <Contents card={card} onEdit={() => setEditing("contents")} />
      )}
      {editing === "facts" && <FactsForm card={card} onClose={close} />}
      {editing === "contents" && <ContentsForm card={card} onClose={close} />}
    </>
  );
}

function Known({ card, onEdit }: { card: PieceCard; onEdit: () => void }) {
  const format = useFormat();
  const { madeOn, expiry, makerNumber, warranty, build, gone } = card;
  const isOver = expiry !== null && expiry < format.settings.today;
  return (
    <>
      <Facts>
        {gone && <Fact name="Where">{gone}</Fact>}
        <Fact name="Made on">{madeOn === null ? "–" : format.day(madeOn)}</Fact>
        <Fact name="Use by">
          {expiry === null ? "–" : isOver ? <Short>{format.day(expiry)}, expired</Short> : format.day(expiry)}
        </Fact>
        <Fact name="Maker's number">{makerNumber || "–"}</Fact>
        {build && (
          <Fact name="Built by">
            <Link to={`/builds/${build.id}`}>{build.number}</Link>
          </Fact>
        )}
        {card.was && <Fact name="Was">{card.was.code}</Fact>}
        {card.reworks.length > 0 && (
          <Fact name="Reworked by">
            {card.reworks.map(({ id, number }) => (
              <Link key={id} to={`/reworks/${id}`}>
                {number}{" "}
              </Link>
            ))}
          </Fact>
        )}
        {warranty && <Fact name="Warranty">{warrantyWords(warranty, format)}</Fact>}
        {warranty && (
          <Fact name="Customer">
            <Link to={`/customers/${warranty.customer.id}`}>{warranty.customer.name}</Link>
          </Fact>
        )}
      </Facts>
      <Row>
        <Button onPress={onEdit}>Change</Button>
        <CustomValues
          owner={card.serial === "" ? "lot" : "serial"}
          id={card.item.id}
          code={card.serial || card.lot}
          values={card.custom}
        />
      </Row>
    </>
  );
}

function warrantyWords({ from, until }: NonNullable<PieceCard["warranty"]>, format: Format): string {
  if (until === null) return `none; shipped ${format.day(from)}`;
  return until < format.settings.today
    ? `ended ${format.day(until)}`
    : `until ${format.day(until)}, from ${format.day(from)}`;
}

function Contents({ card, onEdit }: { card: PieceCard; onEdit: () => void }) {
  const format = useFormat();
  return (
    <Section
      title="What is in it"
      more={
        card.build === null && (
          <Button look="link" onPress={onEdit}>
            {card.written ? "Change" : "Write it down"}
          </Button>
        )
      }
    >
      {card.contents.length === 0 ? (
        <Sub>It was not built here, so nothing is known of its parts.</Sub>
      ) : (
        <SheetTable
          label="What is in it"
          rows={card.contents}
          rowId={(part) => JSON.stringify([part.item.id, part.lot, part.serial, part.rework?.id])}
          columns={[
            {
              header: "Part",
              cell: ({ item, rework }) => (
                <Named
                  name={item.name}
                  to={`/catalog/${item.id}`}
                  more={[item.code, rework && `put in by ${rework.number}`]}
                />
              ),
            },
            {
              header: "Lot or serial",
              cell: ({ item, lot, serial }) =>
                serial || lot ? (
                  <Link
                    to={`/trace?item=${item.id}&${serial ? "serial" : "lot"}=${encodeURIComponent(serial || lot)}`}
                  >
                    {serial || lot}
                  </Link>
                ) : (
                  "–"
                ),
            },
            {
              header: "Quantity",
              end: true,
              cell: ({ item, quantity }) => format.amount(quantity, item.unit),
            },
          ]}
        />
      )}
    </Section>
  );
}

interface FactsDraft {
  madeOn: string;
  expiry: string;
  makerNumber: string;
}

const FactsIn = fieldsOf<FactsDraft>();

function FactsForm({ card, onClose }: { card: PieceCard; onClose: () => void }) {
  const code = card.serial || card.lot;
  return (
    <FormDialog
      title={`Change ${code}`}
      isOpen
      onClose={onClose}
      width="520px"
      save="Save"
      route={pieceRoutes.changePiece}
      begin={{
        madeOn: card.madeOn ?? "",
        expiry: card.expiry ?? "",
        makerNumber: card.makerNumber,
      }}
      body={({ madeOn, expiry, makerNumber }: FactsDraft) => ({
        item: card.item.id,
        lot: card.lot,
        serial: card.serial,
        madeOn: madeOn === "" ? null : madeOn,
        expiry: expiry === "" ? null : expiry,
        makerNumber,
      })}
      done={() => sayDone(`${code} saved.`)}
    >
      <Stack>
        <Row>
          <FactsIn.Day label="Made on" name="madeOn" width="190px" />
          <FactsIn.Day label="Use by" name="expiry" width="190px" />
        </Row>
        <FactsIn.Text label="Maker's number" name="makerNumber" width="260px" />
      </Stack>
    </FormDialog>
  );
}

interface ContentDraft {
  item: Pick<ItemRow, "id" | "code" | "name" | "unit" | "packs" | "tracking"> | null;
  quantity: string;
  lot: string;
  serial: string;
}

interface ContentsDraft {
  contents: ContentDraft[];
}

const In = fieldsOf<ContentsDraft>();

const BLANK: ContentDraft = { item: null, quantity: "1", lot: "", serial: "" };

function ContentsForm({ card, onClose }: { card: PieceCard; onClose: () => void }) {
  const written = card.contents.flatMap(({ rework, ...part }) => (rework === null ? [part] : []));
  return (
    <FormDialog
      title={`What is in ${card.serial}`}
      isOpen
      onClose={onClose}
      width="760px"
      save="Save"
      route={pieceRoutes.writeContents}
      begin={{ contents: written.length > 0 ? written : [BLANK] }}
      body={({ contents }: ContentsDraft) => ({
        item: card.item.id,
        serial: card.serial,
        contents: contents
          .filter(({ item }) => item !== null)
          .map(({ item, ...part }) => ({ ...part, item: item?.id ?? 0 })),
      })}
      done={() => sayDone(`Contents of ${card.serial} saved.`)}
    >
      <In.Lines name="contents" blank={BLANK} add="Add a part" isLong>
        {(at, i) => <PartFields at={at} nth={i + 1} />}
      </In.Lines>
    </FormDialog>
  );
}

function PartFields({ at, nth }: { at: `contents.${number}`; nth: number }) {
  const item = useWatch<ContentsDraft, `contents.${number}.item`>({ name: `${at}.item` });
  return (
    <>
      <In.Item label={`Part ${nth}`} name={`${at}.item`} width="280px" choosing="stock" />
      <In.Quantity
        label={`Quantity ${nth}`}
        name={`${at}.quantity`}
        width="120px"
        unit={item?.unit}
        packs={item?.packs ?? []}
      />
      {item?.tracking === "lot" && <In.Text label={`Lot ${nth}`} name={`${at}.lot`} width="140px" />}
      {item?.tracking === "serial" && (
        <In.Text label={`Serial number ${nth}`} name={`${at}.serial`} width="140px" />
      )}
    </>
  );
}
