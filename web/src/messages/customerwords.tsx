import { useQuery } from "@tanstack/react-query";
import { messageRoutes } from "@yosegi/contract";
import { Trash2 } from "lucide-react";
import { asking, usePress } from "../api/index.ts";
import { Button, Named, Section, SheetTable, sayDone, useFormat } from "../ui/index.ts";

/** What a customer calls items, as it was settled when a message was read; nothing where there is none. */
export function CustomerWords({ customer }: { customer: number }) {
  const format = useFormat();
  const { data } = useQuery(asking(messageRoutes.customerWords, { params: { id: customer } }));
  const forget = usePress(messageRoutes.forgetWords, () => sayDone("Name forgotten."));
  if (!data || data.words.length === 0) return null;
  return (
    <Section title="Their names for items">
      <SheetTable
        label="Their names for items"
        rows={data.words}
        rowId={(one) => one.words}
        columns={[
          { header: "They write", cell: ({ words }) => words },
          {
            header: "Item",
            cell: ({ item }) => <Named name={item.name} to={`/catalog/${item.id}`} more={[item.code]} />,
          },
          { header: "Settled", cell: ({ person, moment }) => `${format.moment(moment)} by ${person}` },
          {
            header: "",
            end: true,
            cell: ({ words }) => (
              <Button
                look="icon"
                aria-label={`Forget ${words}`}
                isPending={forget.busy}
                onPress={() => void forget.run({ params: { id: customer }, body: { words } })}
              >
                <Trash2 />
              </Button>
            ),
          },
        ]}
      />
    </Section>
  );
}
