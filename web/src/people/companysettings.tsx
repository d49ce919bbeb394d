import { type Person, peopleRoutes } from "@yosegi/contract";
import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { Unanswered, usePress } from "../api/index.ts";
import { FormDialog, inputsOf } from "../forms/index.ts";
import {
  Button,
  EditButton,
  Fact,
  Facts,
  Section,
  SheetTable,
  Stack,
  sayDone,
  useAsk,
  useFormat,
} from "../ui/index.ts";
import { CompanyFields } from "./companyfields.tsx";
import { PersonDialog } from "./persondialog.tsx";
import { useCompany, usePeople } from "./queries.ts";

/** The company's name, currency, time zone and tax rate. */
export function CompanySettings() {
  const { data, error } = useCompany();
  const [changing, setChanging] = useState(false);
  const format = useFormat();
  if (!data?.company) return <Unanswered error={error} />;
  const { company } = data;
  return (
    <Section
      title="Company"
      more={
        <Button look="link" onPress={() => setChanging(true)}>
          Change
        </Button>
      }
    >
      <Facts>
        <Fact name="Name">{company.name}</Fact>
        <Fact name="Currency">{company.currency}</Fact>
        <Fact name="Time zone">{company.timeZone}</Fact>
        <Fact name="Tax rate">{format.percent(company.taxRate)}</Fact>
      </Facts>
      <FormDialog
        title="Edit company"
        isOpen={changing}
        onClose={() => setChanging(false)}
        width="520px"
        save="Save"
        route={peopleRoutes.changeCompany}
        begin={{
          name: company.name,
          currency: company.currency,
          timeZone: company.timeZone,
          taxRate: company.taxRate,
        }}
        body={(typed: CompanyDraft) => typed}
        done={() => sayDone("Company saved.")}
      >
        <Stack>
          <CompanyIn.Text label="Name" name="name" autoFocus />
          <CompanyFields />
        </Stack>
      </FormDialog>
    </Section>
  );
}

interface CompanyDraft {
  name: string;
  currency: string;
  timeZone: string;
  taxRate: string;
}

const CompanyIn = inputsOf<CompanyDraft>();

/** Who works here, and who did: names stay on what they recorded. */
export function People() {
  const { data, error } = usePeople();
  const ask = useAsk();
  const [open, setOpen] = useState<Person | "new" | null>(null);
  const remove = usePress(peopleRoutes.removePerson, () => sayDone("Person removed."));
  if (!data) return <Unanswered error={error} />;
  const close = () => setOpen(null);
  const onRemove = async (person: Person) => {
    const yes = await ask({
      title: `Remove ${person.name}?`,
      text: "A person who has recorded something can only be archived.",
      yes: "Remove",
    });
    if (yes) await remove.run({ params: { id: person.id } });
  };
  return (
    <Section
      title="People"
      more={
        <Button look="link" onPress={() => setOpen("new")}>
          <Plus /> New person
        </Button>
      }
    >
      <SheetTable
        label="People"
        rows={data.people}
        rowId={(person) => person.id}
        columns={[
          { header: "Name", cell: (person) => <b>{person.name}</b> },
          { header: "", cell: (person) => (person.archived ? "archived" : "") },
          {
            header: "",
            end: true,
            cell: (person) => (
              <>
                <EditButton label={`Change ${person.name}`} onPress={() => setOpen(person)} />
                <Button
                  look="icon"
                  aria-label={`Remove ${person.name}`}
                  onPress={() => void onRemove(person)}
                >
                  <Trash2 />
                </Button>
              </>
            ),
          },
        ]}
      />
      <PersonDialog open={open} onClose={close} />
    </Section>
  );
}
