import type { ComponentType } from "react";
import { Navigate, type RouteObject } from "react-router";
import { Crashed, EmptyPage, LoadAgain } from "../ui/index.ts";

type Load = () => Promise<ComponentType>;

const builds = () => import("../builds/index.ts");
const buying = () => import("../buying/index.ts");
const firms = () => import("../firms/index.ts");
const catalog: Load = async () => (await import("../itemsheets/index.ts")).CatalogPage;
const picking = () => import("../picking/index.ts");
const priceLists: Load = async () => (await import("../prices/index.ts")).PriceListsPage;
const shipments: Load = async () => (await import("../shipping/index.ts")).ShipmentsPage;
const returns: Load = async () => (await import("../returns/index.ts")).ReturnsPage;
const supplierReturns: Load = async () => (await import("../supplierreturns/index.ts")).SupplierReturnsPage;
const takeAparts: Load = async () => (await import("../takeaparts/index.ts")).TakeApartsPage;
const reworks = () => import("../reworks/index.ts");
const counts: Load = async () => (await import("../counts/index.ts")).CountsPage;
const orders: Load = async () => (await import("../orders/index.ts")).OrdersPage;

/** Every page by its address: its title, and what loads it. */
const LOADED: [path: string, title: string, load: Load][] = [
  ["/today", "Today", async () => (await import("../today/index.ts")).TodayPage],
  ["/orders", "Orders", orders],
  ["/orders/ready", "Ready to ship", async () => (await import("../shipping/index.ts")).ReadyPage],
  ["/orders/:id", "Orders", orders],
  ["/orders/:id/packed", "Packed", async () => (await picking()).PackPage],
  ["/shipments", "Shipments", shipments],
  ["/shipments/:id", "Shipments", shipments],
  ["/returns", "Returns", returns],
  ["/returns/:id", "Returns", returns],
  ["/check", "Check", async () => (await import("../cover/index.ts")).CheckPage],
  ["/pick", "Pick", async () => (await picking()).PicksPage],
  ["/pick/:id", "Pick", async () => (await picking()).RoundPage],
  ["/builds", "Builds", async () => (await builds()).BuildsPage],
  ["/builds/calendar", "Calendar", async () => (await builds()).CalendarPage],
  ["/builds/orders", "Build for orders", async () => (await import("../orders/index.ts")).ToBuildPage],
  ["/builds/several", "Several builds", async () => (await builds()).SeveralPage],
  ["/builds/repeat", "Recurring", async () => (await import("../recurring/index.ts")).RecurringPage],
  ["/take-aparts", "Take-aparts", takeAparts],
  ["/take-aparts/:id", "Take-aparts", takeAparts],
  ["/reworks", "Reworks", async () => (await reworks()).ReworksPage],
  ["/reworks/steps", "Rework steps", async () => (await reworks()).ReworkStepsPage],
  ["/reworks/several", "Finish several reworks", async () => (await reworks()).SeveralReworksPage],
  ["/reworks/:id", "Reworks", async () => (await reworks()).ReworksPage],
  ["/builds/:id", "Builds", async () => (await builds()).BuildsPage],
  ["/labels", "Labels", async () => (await import("../labels/index.ts")).LabelsPage],
  ["/catalog", "Catalog", catalog],
  ["/catalog/:id", "Catalog", catalog],
  ["/catalog/:id/:view", "Catalog", catalog],
  ["/prices", "Prices", async () => (await import("../prices/index.ts")).PricesPage],
  ["/price-lists", "Price lists", priceLists],
  ["/price-lists/:id", "Price lists", priceLists],
  ["/replace", "Replace a part", async () => (await import("../replacing/index.ts")).ReplacePage],
  ["/suppliers", "Suppliers", async () => (await firms()).SuppliersPage],
  ["/suppliers/:id", "Suppliers", async () => (await firms()).SuppliersPage],
  ["/customers", "Customers", async () => (await firms()).CustomersPage],
  ["/customers/:id", "Customers", async () => (await firms()).CustomersPage],
  ["/buying", "Buying", async () => (await buying()).BuyingPage],
  ["/buying/:id", "Buying", async () => (await buying()).BuyingPage],
  ["/reorder", "Reorder", async () => (await buying()).ReorderPage],
  ["/supplier-returns", "Returns to suppliers", supplierReturns],
  ["/supplier-returns/:id", "Returns to suppliers", supplierReturns],
  ["/outbox", "Outbox", async () => (await buying()).OutboxPage],
  ["/outbox/:id", "Outbox", async () => (await buying()).OutboxPage],
  ["/settings", "Settings", async () => (await import("../settings/index.ts")).SettingsPage],
  ["/import", "Import", async () => (await import("../imports/index.ts")).ImportPage],
  ["/trace", "Trace", async () => (await import("../trace/index.ts")).TracePage],
  ["/stock/places", "Where everything is", async () => (await import("../stock/index.ts")).PlacesPage],
  ["/stock/book", "Move, scrap, receive", async () => (await import("../stock/index.ts")).BookPage],
  ["/stock/counts", "Counts", counts],
  ["/stock/counts/:id", "Counts", counts],
  ["/stock", "Stock", async () => (await import("../stock/index.ts")).StockPage],
];

/** Stands where a page can't be loaded: the server is away, or has a newer version of it. */
const NotLoaded = () => (
  <EmptyPage title="This page couldn't be loaded" action={<LoadAgain />}>
    The server can't be reached, or was updated. Nothing that was saved is lost.
  </EmptyPage>
);

export const PAGES: RouteObject[] = [
  { path: "/", element: <Navigate to="/today" replace /> },
  ...LOADED.map(
    ([path, title, load]): RouteObject => ({
      path,
      handle: { title },
      lazy: async () => ({ Component: await load().catch(notLoaded) }),
      // A page that can't be drawn leaves the menu standing.
      errorElement: <Crashed />,
    }),
  ),
];

function notLoaded(error: unknown): ComponentType {
  console.error(error);
  return NotLoaded;
}

export const NOT_FOUND: RouteObject = {
  path: "*",
  handle: { title: "Page not found" },
  element: <EmptyPage title="Page not found">Choose a page from the menu or scan a code.</EmptyPage>,
};

/** How long the page that was opened has to itself. */
const REST_AFTER_MS = 4000;

const idle = () =>
  new Promise<void>((resolve) => {
    // Not every browser tells when it has nothing to do.
    if ("requestIdleCallback" in window) requestIdleCallback(() => resolve());
    else setTimeout(resolve, 100);
  });

/**
 * Loads the other pages one by one when there is nothing else to do, so that they open also while the server is away. Gives how to
 * leave it.
 */
export function loadAllPages(): () => void {
  let left = false;
  const timer = setTimeout(async () => {
    for (const [, , load] of LOADED) {
      await idle();
      if (left) return;
      // One that can't be loaded now says so when it is opened.
      await load().catch((error: Error) => console.warn(error.message));
    }
  }, REST_AFTER_MS);
  return () => {
    left = true;
    clearTimeout(timer);
  };
}
