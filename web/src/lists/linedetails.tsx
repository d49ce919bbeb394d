import { useWatch } from "react-hook-form";
import styled from "styled-components";
import { fieldsOf } from "../fields/index.ts";
import { DRAWN_CHOICES } from "../items/index.ts";
import { useWorking } from "../people/index.ts";
import { Row } from "../ui/index.ts";
import type { DraftList } from "./listdraft.ts";

interface LineDetailsProps {
  at: `lines.${number}`;
  product: number;
}

const In = fieldsOf<DraftList>();

export function LineDetails({ at, product }: LineDetailsProps) {
  const { people } = useWorking();
  const part = useWatch<DraftList, `lines.${number}.part`>({ name: `${at}.part` });
  const work = part?.kind === "service";
  return (
    <Details>
      <Row>
        <In.Tick name={`${at}.oncePerBuild`}>Once per build</In.Tick>
        <In.Tick name={`${at}.optional`}>Optional (chosen per build)</In.Tick>
      </Row>
      <Row>
        {!work && (
          <>
            <In.Choice label="Taken" name={`${at}.drawnAt`} width="130px" options={DRAWN_CHOICES} />
            <In.Store label="Taken from" name={`${at}.store`} width="160px" none="Its home store" />
            <In.Amount
              label="Recovery share (when taken apart)"
              name={`${at}.share`}
              width="150px"
              unit="%"
            />
          </>
        )}
        {work && (
          <In.Choice
            label="Done by"
            name={`${at}.person`}
            width="190px"
            none="Anybody"
            options={people.map((p) => ({ value: p.name, label: p.name }))}
          />
        )}
        <In.Text label="Note" name={`${at}.note`} width="260px" />
      </Row>
      {!work && (
        <In.Lines
          name={`${at}.substitutes`}
          blank={{ item: null, quantity: "1" }}
          add="Add substitute"
          remove={(i) => `Remove substitute ${i + 1}`}
        >
          {(of, i) => <Substitute at={of} n={i + 1} product={product} />}
        </In.Lines>
      )}
    </Details>
  );
}

function Substitute({
  at,
  n,
  product,
}: {
  at: `lines.${number}.substitutes.${number}`;
  n: number;
  product: number;
}) {
  const item = useWatch<DraftList, `lines.${number}.substitutes.${number}.item`>({ name: `${at}.item` });
  return (
    <>
      <In.Item
        label={`Substitute ${n}`}
        width="290px"
        choosing="part"
        product={product}
        name={`${at}.item`}
      />
      <In.Quantity
        packs={item?.packs ?? []}
        measuredIn={item?.unit ?? ""}
        label="Quantity per unit replaced"
        width="150px"
        name={`${at}.quantity`}
      />
    </>
  );
}

const Details = styled.div`
  display: grid;
  gap: 10px;
  padding: 2px 0 12px;
`;
