import { notifyManager, QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import type { Company } from "@yosegi/contract";
import { Suspense, useEffect, useState } from "react";
import { RouterProvider as AriaRouter, I18nProvider } from "react-aria-components";
import { createBrowserRouter, Outlet, RouterProvider, useMatches, useNavigate } from "react-router";
import {
  afterRelease,
  deviceName,
  followChanges,
  isRecording,
  NoAnswer,
  Refused,
  setDevice,
  Unanswered,
} from "../api/index.ts";
import { NewFirmContext, NewItemContext } from "../fields/index.ts";
import { SetUpPage, useCompany, useWorking, WhoPage, WorkingProvider } from "../people/index.ts";
import {
  AskProvider,
  Crashed,
  CrashGuard,
  GlobalStyle,
  SettingsContext,
  Shortcuts,
  sayFailed,
  THEME_CHOICES,
  type ThemeChoice,
  Toasts,
  UnsavedGuard,
  usePageTitle,
} from "../ui/index.ts";
import { Frame } from "./frame.tsx";
import { NewFirmWhenAsked, NewItemWhenAsked } from "./madeonthespot.tsx";
import { loadAllPages, NOT_FOUND, PAGES } from "./pages.tsx";

const STALE_MS = 5 * 60_000;

notifyManager.setScheduler(afterRelease(window));
setDevice(deviceName());

const client = new QueryClient({
  queryCache: new QueryCache({
    onError: (error, { state, queryKey: [, , how] }) => {
      // The page stays with what it has; the banner says when there is no connection. What this page itself has just removed
      // is not missed, and what is wrong with what is typed is said at its field.
      const typed = how === "POST";
      if (state.data !== undefined && error instanceof Refused && !typed && !isRecording())
        sayFailed(error.message);
      if (!(error instanceof Refused) && !(error instanceof NoAnswer)) console.error(error);
    },
  }),
  defaultOptions: {
    queries: {
      // The server is on the person's own machine or next to it; whether there is an internet says nothing about it.
      networkMode: "always",
      // A refusal stays a refusal; only a server that does not answer is asked again.
      retry: (failures, error) => error instanceof NoAnswer && failures < 2,
      // What others change is told by the server.
      staleTime: STALE_MS,
      refetchOnWindowFocus: false,
      refetchOnReconnect: false,
    },
  },
});

const STORED_THEME = "yosegi.theme";

const router = createBrowserRouter([
  {
    element: <Root />,
    errorElement: <Crashed />,
    hydrateFallbackElement: <Unanswered error={null} />,
    children: [...PAGES, NOT_FOUND],
  },
]);

export function App() {
  return (
    <QueryClientProvider client={client}>
      <GlobalStyle />
      <I18nProvider>
        <CrashGuard>
          <RouterProvider router={router} useTransitions={false} />
        </CrashGuard>
        <Toasts />
      </I18nProvider>
    </QueryClientProvider>
  );
}

/** What is around every page. */
function Root() {
  useEffect(() => followChanges(client), []);
  useEffect(loadAllPages, []);
  const { title = "" } = (useMatches().at(-1)?.handle ?? {}) as { title?: string };
  usePageTitle(title);
  return (
    <AskProvider>
      <UnsavedGuard>
        <WorkingProvider>
          <Shortcuts>
            <Opened />
          </Shortcuts>
        </WorkingProvider>
      </UnsavedGuard>
    </AskProvider>
  );
}

function Opened() {
  const { data, error } = useCompany();
  const { person, people, error: noPeople } = useWorking();
  const navigate = useNavigate();
  if (!data) return <Unanswered error={error} />;
  if (!data.company)
    return (
      <Suspense>
        <SetUpPage />
      </Suspense>
    );
  if (!person) return people.length > 0 ? <WhoPage /> : <Unanswered error={noPeople} />;
  return (
    <AriaRouter navigate={(to) => void navigate(to)}>
      <Pages company={data.company} />
    </AriaRouter>
  );
}

function Pages({ company }: { company: Company }) {
  const [theme, setTheme] = useState<ThemeChoice>(
    () => THEME_CHOICES.find((t) => t === localStorage.getItem(STORED_THEME)) ?? "system",
  );
  useEffect(() => {
    localStorage.setItem(STORED_THEME, theme);
    if (theme === "system") delete document.documentElement.dataset.theme;
    else document.documentElement.dataset.theme = theme;
  }, [theme]);
  return (
    <SettingsContext value={company}>
      <NewItemContext value={NewItemWhenAsked}>
        <NewFirmContext value={NewFirmWhenAsked}>
          <Frame company={company.name} theme={theme} onTheme={setTheme}>
            <Outlet />
          </Frame>
        </NewFirmContext>
      </NewItemContext>
    </SettingsContext>
  );
}
