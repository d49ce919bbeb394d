import { buyingRoutes, type PurchaseLine, type PurchaseSheet, shippingRoutes } from "@yosegi/contract";
import { useFieldArray, useFormContext, useWatch } from "react-hook-form";
import styled from "styled-components";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog, sentLines, useRefusal } from "../forms/index.ts";
import { Button, color, Row, Short, Stack, sayDone, useFieldState, useFormat } from "../ui/index.ts";
import { type CameDraft, cameOf, isReceived, lotOf, receiveLines, serialsIn } from "./words.ts";

interface ReceiveDraft {
  day: string;
  note: string;
  /** More came than was ordered, and is kept. */
  more: boolean;
  lines: CameDraft[];
}

const In = fieldsOf<ReceiveDraft>();

interface ReceiveDialogProps {
  purchase: PurchaseSheet;
  isOpen: boolean;
  onClose: () => void;
}

/** What came of an order: all that is open is offered, and changed where it was otherwise. */
export function ReceiveDialog({ purchase, isOpen, onClose }: ReceiveDialogProps) {
  const { today } = useFormat().settings;
  const open = purchase.orderLines.filter((line) => line.open !== "0");
  const direct = purchase.deliverTo !== null;
  return (
    <FormDialog
      title={direct ? `${purchase.number} was delivered to the customer` : `Receive ${purchase.number}`}
      isOpen={isOpen}
      onClose={onClose}
      width="1040px"
      save={direct ? "Confirm delivery" : "Receive"}
      more={<NothingCame />}
      route={direct ? shippingRoutes.confirmDelivery : buyingRoutes.receivePurchase}
      params={{ id: purchase.id }}
      begin={{ day: today, note: "", more: false, lines: open.map((line) => cameOf(line, today)) }}
      body={(typed: ReceiveDraft) => ({ ...typed, lines: receiveLines(typed.lines, purchase.orderLines) })}
      fieldOf={sentLines("lines", isReceived)}
      done={(recorded) =>
        sayDone(
          "shipped" in recorded
            ? `Delivered: ${recorded.order.number} is shipped as ${recorded.number}.`
            : `Received as ${recorded.receipts.at(-1)?.number ?? purchase.number}.`,
        )
      }
    >
      <Stack>
        <Lines lines={purchase.orderLines} direct={direct} />
        <Row>
          <In.Day label="Day" name="day" />
          <In.Text label="Note" name="note" width="420px" />
        </Row>
        <MoreCame />
      </Stack>
    </FormDialog>
  );
}

/** The lines that were open when this began, also while a colleague receives one of them. */
function Lines({ lines, direct }: { lines: readonly PurchaseLine[]; direct: boolean }) {
  const { getValues } = useFormContext<ReceiveDraft>();
  return getValues("lines").map(({ line: id }, i) => {
    const line = lines.find((one) => one.id === id);
    return line && <LineFields key={id} line={line} at={`lines.${i}`} direct={direct} />;
  });
}

/** Asked once the server has found it. */
function MoreCame() {
  const more = useWatch<ReceiveDraft, "more">({ name: "more" });
  const over = useRefusal()?.code === "over-delivery";
  return over || more ? <In.Tick name="more">Accept the extra quantity</In.Tick> : null;
}

function NothingCame() {
  const { getValues, setValue } = useFormContext<ReceiveDraft>();
  const none = () => {
    for (const i of getValues("lines").keys()) setValue(`lines.${i}.quantity`, "0");
  };
  return <Button onPress={none}>Set all to zero</Button>;
}

interface LineProps {
  line: PurchaseLine;
  at: `lines.${number}`;
}

function LineFields({ line, at, direct }: LineProps & { direct: boolean }) {
  const format = useFormat();
  const serials = useWatch<ReceiveDraft, `lines.${number}.serials`>({ name: `${at}.serials` });
  const { item } = line;
  const stocked = item.kind !== "service" && !item.notStockTracked;
  return (
    <One>
      <div>
        <b>{item.name}</b>
        <small>
          {item.code} · {format.amount(line.open, item.unit)} to come
        </small>
      </div>
      <Row $gap="8px">
        <In.Quantity
          label={`Received (${item.code})`}
          name={`${at}.quantity`}
          width="130px"
          unit={item.unit}
          packs={item.packs}
        />
        <In.Rate
          label={`Price of ${item.code}`}
          name={`${at}.price`}
          per={`${at}.pricePer`}
          perLabel={`Per, ${item.code}`}
          unit={item.unit}
          packs={item.packs}
        />
        {stocked && !direct && (
          <>
            <In.Store label={`Store for ${item.code}`} name={`${at}.store`} width="150px" />
            <In.Text label={`Bin for ${item.code}`} name={`${at}.bin`} width="96px" />
          </>
        )}
        {item.tracking === "serial" && (
          <In.Text
            lines
            label={`Serial numbers of ${item.code}, one a line`}
            name={`${at}.serials`}
            width="260px"
            hint={format.count(serialsIn(serials).length, "number", "numbers")}
          />
        )}
        {item.tracking === "serial" && (
          <In.Day label={`${item.code} use-by date of all`} name={`${at}.expiry`} width="190px" />
        )}
        {item.tracking !== "none" && (
          <In.Day label={`${item.code} made on`} name={`${at}.madeOn`} width="190px" />
        )}
      </Row>
      {item.tracking === "lot" && <Lots line={line} at={at} />}
      <In.Tick name={`${at}.close`}>Don't expect the rest</In.Tick>
    </One>
  );
}

/** The lots of what came: one is all of it; several say how much each. */
function Lots({ line, at }: LineProps) {
  const format = useFormat();
  const lots = useFieldArray<ReceiveDraft, `lines.${number}.lots`>({ name: `${at}.lots` });
  const { item } = line;
  const several = lots.fields.length > 1;
  // Of the lots together, such as that they add up to something else.
  const { message } = useFieldState(`${at}.lots`, "");
  return (
    <>
      {lots.fields.map(({ id }, place) => (
        <Row key={id} $gap="8px">
          <In.Text
            label={`Lot${several ? ` ${place + 1}` : ""} of ${item.code}`}
            name={`${at}.lots.${place}.lot`}
            width="150px"
          />
          <In.Day
            label={`${several ? `Lot ${place + 1}` : item.code} use-by date`}
            name={`${at}.lots.${place}.expiry`}
            width="190px"
          />
          {several && (
            <In.Quantity
              label={`Quantity in lot ${place + 1}`}
              name={`${at}.lots.${place}.quantity`}
              width="130px"
              unit={item.unit}
              packs={item.packs}
            />
          )}
        </Row>
      ))}
      {message && <Short role="alert">{message}</Short>}
      <div>
        <Button
          look="link"
          onPress={() => lots.append(lotOf(line, format.settings.today), { shouldFocus: false })}
        >
          Add lot of {item.code}
        </Button>
      </div>
    </>
  );
}

const One = styled.div`
  display: grid;
  gap: 6px;
  padding-bottom: 10px;
  border-bottom: 1px solid ${color.line};
  small {
    margin-left: 10px;
    color: ${color.ink2};
  }
`;
