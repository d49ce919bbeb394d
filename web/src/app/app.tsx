import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import type { Company } from "@yosegi/contract";
import { useEffect, useState } from "react";
import { RouterProvider as AriaRouter, I18nProvider } from "react-aria-components";
import { BrowserRouter, Navigate, Route, Routes, useNavigate } from "react-router";
import { Failure, NoAnswer } from "../api/index.ts";
import { BuildsPage, CalendarPage, SeveralPage } from "../builds/index.ts";
import { BuyingPage, OutboxPage, ReorderPage } from "../buying/index.ts";
import { CheckPage } from "../cover/index.ts";
import { NewItemContext } from "../fields/index.ts";
import { FirmsPage } from "../firms/index.ts";
import { ImportPage } from "../imports/index.ts";
import { NewItemDialog } from "../items/index.ts";
import { CatalogPage } from "../itemsheets/index.ts";
import { LabelsPage } from "../labels/index.ts";
import { OrdersPage } from "../orders/index.ts";
import { SetUpPage, useCompany, WorkingProvider } from "../people/index.ts";
import { PricesPage } from "../prices/index.ts";
import { RecurringPage } from "../recurring/index.ts";
import { ReplacePage } from "../replacing/index.ts";
import { SettingsPage } from "../settings/index.ts";
import { StockPage } from "../stock/index.ts";
import {
  EmptyPage,
  GlobalStyle,
  SettingsContext,
  Shortcuts,
  THEME_CHOICES,
  type ThemeChoice,
  Toasts,
} from "../ui/index.ts";
import { Frame } from "./frame.tsx";

const client = new QueryClient({
  defaultOptions: {
    // The server is on the person's own machine or next to it; whether there is an internet says nothing about it.
    mutations: { networkMode: "always" },
    queries: {
      networkMode: "always",
      // A refusal stays a refusal; only a server that does not answer is asked again.
      retry: (failures, error) => error instanceof NoAnswer && failures < 2,
      staleTime: 2000,
    },
  },
});

const STORED_THEME = "yosegi.theme";

export function App() {
  return (
    <QueryClientProvider client={client}>
      <GlobalStyle />
      <I18nProvider>
        {/* A new address applies at once: applied later, it would take keys away from a field whose text stands in it. */}
        <BrowserRouter useTransitions={false}>
          <WorkingProvider>
            <Shortcuts>
              <Opened />
              <Toasts />
            </Shortcuts>
          </WorkingProvider>
        </BrowserRouter>
      </I18nProvider>
    </QueryClientProvider>
  );
}

function Opened() {
  const { data, error } = useCompany();
  const navigate = useNavigate();
  if (error) return <Failure error={error} />;
  if (!data) return null;
  if (!data.company) return <SetUpPage />;
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
        <Frame company={company.name} theme={theme} onTheme={setTheme}>
          <Routes>
            <Route path="/" element={<Navigate to="/check" replace />} />
            <Route path="/orders" element={<OrdersPage />} />
            <Route path="/orders/:id" element={<OrdersPage />} />
            <Route path="/check" element={<CheckPage />} />
            <Route path="/builds" element={<BuildsPage />} />
            <Route path="/builds/calendar" element={<CalendarPage />} />
            <Route path="/builds/several" element={<SeveralPage />} />
            <Route path="/builds/repeat" element={<RecurringPage />} />
            <Route path="/builds/:id" element={<BuildsPage />} />
            <Route path="/labels" element={<LabelsPage />} />
            <Route path="/catalog" element={<CatalogPage />} />
            <Route path="/catalog/:id" element={<CatalogPage />} />
            <Route path="/catalog/:id/parts-list" element={<CatalogPage view="list" />} />
            <Route path="/catalog/:id/lists" element={<CatalogPage view="lists" />} />
            <Route path="/catalog/:id/compare" element={<CatalogPage view="compare" />} />
            <Route path="/catalog/:id/kit" element={<CatalogPage view="kit" />} />
            <Route path="/prices" element={<PricesPage />} />
            <Route path="/replace" element={<ReplacePage />} />
            <Route path="/suppliers" element={<FirmsPage kind="supplier" />} />
            <Route path="/suppliers/:id" element={<FirmsPage kind="supplier" />} />
            <Route path="/customers" element={<FirmsPage kind="customer" />} />
            <Route path="/customers/:id" element={<FirmsPage kind="customer" />} />
            <Route path="/buying" element={<BuyingPage />} />
            <Route path="/buying/:id" element={<BuyingPage />} />
            <Route path="/reorder" element={<ReorderPage />} />
            <Route path="/outbox" element={<OutboxPage />} />
            <Route path="/outbox/:id" element={<OutboxPage />} />
            <Route path="/settings" element={<SettingsPage />} />
            <Route path="/import" element={<ImportPage />} />
            <Route path="/stock" element={<StockPage />} />
            <Route
              path="*"
              element={
                <EmptyPage title="There is nothing here">
                  The address leads nowhere. Choose from the rail, or scan a code.
                </EmptyPage>
              }
            />
          </Routes>
        </Frame>
      </NewItemContext>
    </SettingsContext>
  );
}
