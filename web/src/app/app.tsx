import { QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import type { Company } from "@yosegi/contract";
import { useEffect, useState } from "react";
import { RouterProvider as AriaRouter, I18nProvider } from "react-aria-components";
import { createBrowserRouter, Navigate, Outlet, RouterProvider, useNavigate } from "react-router";
import { followChanges, isRecording, NoAnswer, Refused, Unanswered } from "../api/index.ts";
import { BuildsPage, CalendarPage, SeveralPage } from "../builds/index.ts";
import { BuyingPage, OutboxPage, ReorderPage } from "../buying/index.ts";
import { CheckPage } from "../cover/index.ts";
import { NewFirmContext, NewItemContext } from "../fields/index.ts";
import { FirmsPage, NewFirmDialog } from "../firms/index.ts";
import { ImportPage } from "../imports/index.ts";
import { NewItemDialog } from "../items/index.ts";
import { CatalogPage } from "../itemsheets/index.ts";
import { LabelsPage } from "../labels/index.ts";
import { OrdersPage } from "../orders/index.ts";
import { SetUpPage, useCompany, useWorking, WhoPage, WorkingProvider } from "../people/index.ts";
import { PricesPage } from "../prices/index.ts";
import { RecurringPage } from "../recurring/index.ts";
import { ReplacePage } from "../replacing/index.ts";
import { SettingsPage } from "../settings/index.ts";
import { StockPage } from "../stock/index.ts";
import {
  AskProvider,
  Crashed,
  CrashGuard,
  EmptyPage,
  GlobalStyle,
  SettingsContext,
  Shortcuts,
  sayFailed,
  THEME_CHOICES,
  type ThemeChoice,
  Toasts,
  UnsavedGuard,
} from "../ui/index.ts";
import { Frame } from "./frame.tsx";

const STALE_MS = 5 * 60_000;

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

const PAGES = [
  { path: "/", element: <Navigate to="/check" replace /> },
  { path: "/orders", element: <OrdersPage /> },
  { path: "/orders/:id", element: <OrdersPage /> },
  { path: "/check", element: <CheckPage /> },
  { path: "/builds", element: <BuildsPage /> },
  { path: "/builds/calendar", element: <CalendarPage /> },
  { path: "/builds/several", element: <SeveralPage /> },
  { path: "/builds/repeat", element: <RecurringPage /> },
  { path: "/builds/:id", element: <BuildsPage /> },
  { path: "/labels", element: <LabelsPage /> },
  { path: "/catalog", element: <CatalogPage /> },
  { path: "/catalog/:id", element: <CatalogPage /> },
  { path: "/catalog/:id/parts-list", element: <CatalogPage view="list" /> },
  { path: "/catalog/:id/lists", element: <CatalogPage view="lists" /> },
  { path: "/catalog/:id/compare", element: <CatalogPage view="compare" /> },
  { path: "/catalog/:id/kit", element: <CatalogPage view="kit" /> },
  { path: "/prices", element: <PricesPage /> },
  { path: "/replace", element: <ReplacePage /> },
  { path: "/suppliers", element: <FirmsPage kind="supplier" /> },
  { path: "/suppliers/:id", element: <FirmsPage kind="supplier" /> },
  { path: "/customers", element: <FirmsPage kind="customer" /> },
  { path: "/customers/:id", element: <FirmsPage kind="customer" /> },
  { path: "/buying", element: <BuyingPage /> },
  { path: "/buying/:id", element: <BuyingPage /> },
  { path: "/reorder", element: <ReorderPage /> },
  { path: "/outbox", element: <OutboxPage /> },
  { path: "/outbox/:id", element: <OutboxPage /> },
  { path: "/settings", element: <SettingsPage /> },
  { path: "/import", element: <ImportPage /> },
  { path: "/stock", element: <StockPage /> },
  {
    path: "*",
    element: <EmptyPage title="Page not found">Choose a page from the menu or scan a code.</EmptyPage>,
  },
];

const router = createBrowserRouter([
  {
    element: <Root />,
    errorElement: <Crashed />,
    // A page that can't be drawn leaves the menu standing.
    children: PAGES.map((page) => ({ ...page, errorElement: <Crashed /> })),
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
  if (!data.company) return <SetUpPage />;
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
      <NewItemContext value={NewItemDialog}>
        <NewFirmContext value={NewFirmDialog}>
          <Frame company={company.name} theme={theme} onTheme={setTheme}>
            <Outlet />
          </Frame>
        </NewFirmContext>
      </NewItemContext>
    </SettingsContext>
  );
}
