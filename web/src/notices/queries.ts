import { useQuery } from "@tanstack/react-query";
import { noticeRoutes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

export const useNotices = () => useQuery(asking(noticeRoutes.notices, {}));
export const useNoticeChoices = () => useQuery(asking(noticeRoutes.noticeChoices, {}));
