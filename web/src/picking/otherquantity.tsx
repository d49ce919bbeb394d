import { type FetchBody, type PickStop, pickingRoutes } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { useState } from "react";
import { usePress } from "../api/index.ts";
import {
  Actions,
  AmountField,
  Button,
  Checkbox,
  Dialog,
  Row,
  Select,
  Stack,
  Sub,
  TextField,
  useFormat,
} from "../ui/index.ts";

interface OtherQuantityProps {
  stop: PickStop;
  round: number;
  onClose: () => void;
  onTake: (change: Partial<FetchBody>) => void;
}

/** Another quantity than is needed, another lot of the bin, fewer in the bin than the books say; or the rest is left short. */
export function OtherQuantity({ stop, round, onClose, onTake }: OtherQuantityProps) {
  const format = useFormat();
  const { item } = stop;
  const pieces = [stop, ...stop.others];
  const [quantity, setQuantity] = useState(stop.quantity);
  const [piece, setPiece] = useState("0");
  const [isCounted, setCounted] = useState(false);
  const [there, setThere] = useState("0");
  const [reason, setReason] = useState("");
  const leave = usePress(pickingRoutes.leaveShort, onClose);
  const chosen = pieces[Number(piece)] ?? stop;
  const typed = pickingRoutes.fetchPick.body.shape.quantity.safeParse(quantity);
  const left = pickingRoutes.fetchPick.body.shape.there.safeParse(there);
  const isMore = typed.success && decimal(quantity).gt(stop.quantity);
  return (
    <Dialog title={`${item.name} in ${stop.bin || stop.store}`} isOpen onClose={onClose} width="460px">
      <Stack>
        <Sub>
          {format.amount(stop.quantity, item.unit)} needed, {format.amount(stop.inBin, item.unit)} in the bin
          by the books.
        </Sub>
        <Row>
          <AmountField
            label="Taken"
            width="150px"
            unit={item.unit}
            value={quantity}
            onChange={setQuantity}
            error={typed.success ? undefined : typed.error.issues[0]?.message}
          />
          {pieces.length > 1 && (
            <Select
              label={item.tracking === "serial" ? "Serial number" : "Lot"}
              width="200px"
              value={piece}
              options={pieces.map((own, i) => ({
                value: String(i),
                label: own.serial || own.lot || "without a lot",
              }))}
              onChange={setPiece}
            />
          )}
        </Row>
        <Checkbox isSelected={isCounted} onChange={setCounted}>
          Count the bin: the books are wrong
        </Checkbox>
        {isCounted && (
          <AmountField
            label="Left in the bin"
            width="150px"
            unit={item.unit}
            value={there}
            onChange={setThere}
            error={left.success ? undefined : left.error.issues[0]?.message}
          />
        )}
        {chosen !== stop && <TextField label="Why another one" value={reason} onChange={setReason} />}
        <Actions>
          <Button
            look="main"
            isDisabled={!typed.success || (isCounted && !left.success)}
            onPress={() =>
              onTake({
                quantity,
                lot: chosen.lot,
                serial: chosen.serial,
                there: isCounted ? there : null,
                more: isMore,
                reason,
              })
            }
          >
            {isMore ? "Take more than is needed" : "Take"}
          </Button>
          <Button
            isPending={leave.busy}
            onPress={() =>
              void leave.run({
                params: { id: round },
                body: {
                  location: stop.location,
                  bin: stop.bin,
                  item: item.id,
                  lot: stop.lot,
                  serial: stop.serial,
                },
              })
            }
          >
            Leave it short
          </Button>
        </Actions>
      </Stack>
    </Dialog>
  );
}
