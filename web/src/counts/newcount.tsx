import { type BodyOf, countsRoutes, type ItemRow } from "@yosegi/contract";
import { useNavigate } from "react-router";
import { fieldsOf, useStores } from "../fields/index.ts";
import { FormDialog, wholeNumber } from "../forms/index.ts";
import { Row, Stack, Sub } from "../ui/index.ts";

interface Draft {
  store: string;
  bins: string;
  item: ItemRow | null;
  days: string;
  blind: boolean;
  note: string;
}

const In = fieldsOf<Draft>();

/** Starts a count: of a store, of some of its bins, of an item, or of what was not counted for so long. */
export function NewCount({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const stores = useStores().data?.stores ?? [];
  const bodyOf = ({ store, bins, item, days, blind, note }: Draft): BodyOf<typeof countsRoutes.newCount> => {
    const location = stores.find(({ name }) => name === store)?.id ?? null;
    const codes = bins
      .split(/[,;]/)
      .map((code) => code.trim())
      .filter(Boolean);
    return {
      store: location,
      bins: [...new Set(codes)].map((bin) => ({ location: location ?? 0, bin })),
      items: item ? [item.id] : [],
      days: wholeNumber(days),
      blind,
      note,
    };
  };
  return (
    <FormDialog
      title="New count"
      isOpen
      onClose={onClose}
      save="Create count sheet"
      route={countsRoutes.newCount}
      begin={{ store: stores[0]?.name ?? "", bins: "", item: null, days: "", blind: false, note: "" }}
      body={bodyOf}
      fieldOf={(path) => (path.startsWith("bins.") ? "bins" : path)}
      done={({ id }) => void navigate(`/stock/counts/${id}`)}
    >
      <Stack>
        <Sub>Everything in stock that fits what you choose is on the sheet.</Sub>
        <Row>
          <In.Store label="Store" name="store" width="190px" />
          <In.Text label="Bins" name="bins" width="250px" placeholder="all, or 01-A, 01-B" />
        </Row>
        <Row>
          <In.Item label="Item" name="item" width="300px" choosing="stock" />
          <In.Text label="Last count older than (days)" name="days" width="200px" inputMode="numeric" />
        </Row>
        <In.Text label="Note" name="note" />
        <In.Tick name="blind">Blind: don't show what the books say until it is counted</In.Tick>
      </Stack>
    </FormDialog>
  );
}
