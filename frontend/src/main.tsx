import "@fontsource-variable/source-sans-3";
import "@fontsource-variable/source-serif-4";
import { MutationCache, QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { Problem } from "./api/client";
import { askBeforeLeaving } from "./api/useChange";
import { App } from "./App";
import { keys } from "./api/keys";

const client = new QueryClient({
  defaultOptions: {
    queries: {
      // What was refused is refused again.
      retry: (count, error) => count < 1 && !(error instanceof Problem && error.status >= 400),
      refetchOnWindowFocus: false,
    },
  },
  // A session that has ended leads back to the door.
  queryCache: new QueryCache({ onError: lookAtDoor }),
  mutationCache: new MutationCache({ onError: lookAtDoor }),
});

function lookAtDoor(error: Error) {
  if (error instanceof Problem && error.status === 401)
    void client.invalidateQueries({ queryKey: keys.door });
}

askBeforeLeaving();

const root = document.getElementById("root");
if (root === null) throw new Error("The page has no root element");
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <BrowserRouter>
        <App />
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);
