import { type OutboxMessage, type OutboxRow, outboxRoutes } from "@yosegi/contract";
import { Check } from "lucide-react";
import { Link } from "react-router";
import styled from "styled-components";
import { Unanswered, useCommand } from "../api/index.ts";
import { BuyingNav } from "../nav/index.ts";
import {
  Actions,
  Button,
  DocumentPage,
  EmptyPage,
  EntryLink,
  Fact,
  Facts,
  Notice,
  Sub,
  sayDone,
  useAddress,
  useFormat,
} from "../ui/index.ts";
import { useMessage, useMessages } from "./queries.ts";

/** What goes out by e-mail: seen, opened, and marked as sent. */
export function OutboxPage() {
  const search = useAddress().get("search");
  const { data, error } = useMessages(search);
  if (!data) return <Unanswered error={error} shape="list" />;
  return (
    <DocumentPage
      label="Messages"
      path="/outbox"
      nav={<BuyingNav />}
      pages={data}
      narrowed={search !== ""}
      empty={
        <EmptyPage title="Outbox is empty">
          Placed purchase orders, order confirmations and papers of shipments come here. Nothing is sent
          automatically: open it, send it from your e-mail, then mark it as sent.
        </EmptyPage>
      }
      choose="Select a message."
      groupOf={(message) => (message.sent ? "Sent" : "To be sent")}
      none="No messages match."
      entry={(message, _, kept) => <MessageEntry message={message} search={kept} />}
      sheet={(id) => <OpenMessage id={id} />}
    />
  );
}

function MessageEntry({ message, search }: { message: OutboxRow; search: string }) {
  const format = useFormat();
  return (
    <EntryLink to={{ pathname: `/outbox/${message.id}`, search }}>
      <b>{message.subject}</b>
      <span>
        {message.to || "no address"} · {format.moment(message.made)}
      </span>
    </EntryLink>
  );
}

function OpenMessage({ id }: { id: number }) {
  const { data, error } = useMessage(id);
  return data ? <Message message={data} /> : <Unanswered error={error} shape="sheet" />;
}

function Message({ message }: { message: OutboxMessage }) {
  const format = useFormat();
  const mark = useCommand(outboxRoutes.markSent, () => sayDone("Marked as sent."));
  const mail = `mailto:${encodeURIComponent(message.to)}?subject=${encodeURIComponent(message.subject)}&body=${encodeURIComponent(message.text)}`;
  return (
    <article>
      <h1>{message.subject}</h1>
      <Sub>
        Created {format.moment(message.made)} by {message.person}
        {message.sent && ` · sent ${format.moment(message.sent.moment)} by ${message.sent.person}`}
      </Sub>
      <Facts>
        <Fact name="To">{message.to || "no address"}</Fact>
        <Fact name="Document">
          <About message={message} />
        </Fact>
        <Fact name="Attached">
          {message.files.map((file) => (
            <File key={file.id} href={`/api/files/${file.id}`} target="_blank" rel="noreferrer">
              {file.name}
            </File>
          ))}
        </Fact>
      </Facts>
      <Text>{message.text}</Text>
      {mark.refusal && <Notice>{mark.refusal.message}</Notice>}
      <Actions>
        {!message.sent && (
          <Button
            look="main"
            isPending={mark.busy}
            onPress={() => void mark.run({ params: { id: message.id } })}
          >
            <Check /> Mark as sent
          </Button>
        )}
        <a href={mail}>Open in e-mail app (attach the files yourself)</a>
      </Actions>
    </article>
  );
}

function About({ message: { document, purchase, order, shipment } }: { message: OutboxMessage }) {
  if (purchase !== null) return <Link to={`/buying/${purchase}`}>{document}</Link>;
  if (shipment !== null) return <Link to={`/shipments/${shipment}`}>{document}</Link>;
  return order === null ? document : <Link to={`/orders/${order}`}>{document}</Link>;
}

const File = styled.a`
  margin-right: 14px;
`;
const Text = styled.pre`
  max-width: 44em;
  margin: 0;
  padding: 14px 18px;
  white-space: pre-wrap;
  font: inherit;
  background: var(--paper);
  border: 1px solid var(--line);
`;
