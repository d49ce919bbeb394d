export { NoticeBell } from "./noticebell.tsx";
export { useNoticeChoices } from "./queries.ts";
