import { type NoticeAnswer, noticeRoutes } from "@yosegi/contract";
import { Bell } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { usePress } from "../api/index.ts";
import { Button, color, Dialog, Sub, useFormat } from "../ui/index.ts";
import { useNotices } from "./queries.ts";

const WHERE: Record<NoticeAnswer["kind"], string> = {
  build: "/builds",
  order: "/orders",
  purchase: "/buying",
};

/** What the person who is working was told of; opening it marks it as read. Nothing where nothing ever was. */
export function NoticeBell() {
  const format = useFormat();
  const { data } = useNotices();
  const [isOpen, setOpen] = useState(false);
  const read = usePress(noticeRoutes.readNotices);
  if (!data || data.notices.length === 0) return null;
  return (
    <>
      <Button
        look="icon"
        aria-label={
          data.unread === 0 ? "Notices" : `Notices: ${format.count(data.unread, "new one", "new ones")}`
        }
        onPress={() => {
          setOpen(true);
          if (data.unread > 0) void read.run({});
        }}
      >
        <Bell />
        {data.unread > 0 && <Count>{data.unread}</Count>}
      </Button>
      {isOpen && (
        <Dialog title="Notices" isOpen onClose={() => setOpen(false)} width="520px">
          <Sub>
            <Link to="/settings" onClick={() => setOpen(false)}>
              Choose what you are told of
            </Link>
          </Sub>
          <List>
            {data.notices.map(({ id, kind, document, text, moment }) => (
              <li key={id}>
                <Link to={`${WHERE[kind]}/${document}`} onClick={() => setOpen(false)}>
                  {text}
                </Link>
                <small>{format.moment(moment)}</small>
              </li>
            ))}
          </List>
        </Dialog>
      )}
    </>
  );
}

const Count = styled.span`
  font-size: 13px;
  font-weight: 700;
  color: ${color.lacquer};
`;

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 60vh;
  overflow: auto;
  li {
    padding: 8px 0;
    border-bottom: 1px solid ${color.line};
  }
  small {
    display: block;
    color: ${color.ink2};
  }
`;
