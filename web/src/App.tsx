import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { AccountPage } from "./account/AccountPage";
import { InvitationPage } from "./account/InvitationPage";
import { SESSION_ENDED, type Session } from "./api/client";
import { useLiveEvents } from "./api/live";
import { catalogQuery, sessionQuery, showRecorded } from "./api/queries";
import { Bench } from "./bench/Bench";
import { sender } from "./bench/sender";
import { Floor } from "./floor/Floor";
import { GaugeRoom } from "./gauges/GaugeRoom";
import { Gauges } from "./gauges/Gauges";
import { InspectionPage } from "./inspection/InspectionPage";
import { PartsPage } from "./parts/PartsPage";
import { PeoplePage } from "./people/PeoplePage";
import { Boundary } from "./shared/Boundary";
import { Notice } from "./shared/Notice";
import { TopBar } from "./shared/TopBar";
import { Sheet } from "./sheet/Sheet";
import { ShellRoom } from "./shell-room/ShellRoom";
import { CrankPage } from "./shells/CrankPage";
import { MachiningPage } from "./shells/MachiningPage";
import { OrderPage } from "./shells/OrderPage";
import { PinsPage } from "./shells/PinsPage";
import { ShellsPage } from "./shells/ShellsPage";
import { TrayPage } from "./shells/TrayPage";
import { ShopPage } from "./shop/ShopPage";
import { SignIn } from "./sign-in/SignIn";
import { SignInAgain } from "./sign-in/SignInAgain";
import { SetUpPage } from "./work/SetUpPage";

export function App() {
  const { pathname } = useLocation();
  const session = useQuery(sessionQuery);
  if (pathname === "/invitation") return <InvitationPage />;
  if (session.isPending) return null;
  if (session.isError) {
    return (
      <Notice title="The server cannot be reached" text="This page goes on by itself once it answers." />
    );
  }
  return session.data === null ? <SignIn /> : <SignedIn session={session.data} />;
}

/** Sends what this person typed and is not kept yet, whatever page is shown. */
function useSender(login: string): void {
  const client = useQueryClient();
  useEffect(() => {
    const away = sender.onTold((told) => {
      if ("recorded" in told) showRecorded(client, told.recorded);
    });
    void sender.signedIn(login);
    return () => {
      away();
      void sender.signedIn(undefined);
    };
  }, [client, login]);
}

function SignedIn({ session }: { session: Session }) {
  const catalog = useQuery(catalogQuery);
  const connected = useLiveEvents();
  useSender(session.login);
  const { pathname } = useLocation();
  const [ended, setEnded] = useState(false);
  useEffect(() => {
    const end = () => setEnded(true);
    window.addEventListener(SESSION_ENDED, end);
    return () => window.removeEventListener(SESSION_ENDED, end);
  }, []);
  // Nothing can be drawn without knowing what there is to measure.
  if (!catalog.data) {
    return catalog.isError ? (
      <Notice title="The server cannot be reached" text="This page goes on by itself once it answers." />
    ) : null;
  }
  return (
    <div className="flex h-full min-w-[1000px] flex-col">
      <TopBar session={session} connected={connected} />
      <Boundary of="This page" at={pathname}>
        <Routes>
          <Route index element={<Floor session={session} />} />
          <Route path="builds/:code/bench/:station?" element={<Bench session={session} />} />
          <Route path="builds/:code/look" element={<InspectionPage />} />
          <Route path="builds/:code/parts" element={<PartsPage session={session} />} />
          <Route path="builds/:code/set-up" element={<SetUpPage />} />
          <Route path="builds/:code/gauges" element={<Gauges />} />
          <Route path="people" element={<PeoplePage session={session} />} />
          <Route path="account" element={<AccountPage session={session} />} />
          <Route path="shop" element={<ShopPage session={session} />} />
          <Route path="gauges" element={<GaugeRoom session={session} />} />
          <Route path="builds/:code/shells" element={<ShellsPage />} />
          <Route path="builds/:code/shells/crank" element={<CrankPage />} />
          <Route path="builds/:code/shells/tray" element={<TrayPage />} />
          <Route path="builds/:code/shells/pins" element={<PinsPage session={session} />} />
          <Route path="builds/:code/shells/machining" element={<MachiningPage />} />
          <Route path="builds/:code/shells/orders/:order" element={<OrderPage shop={session.shop} />} />
          <Route path="shells" element={<ShellRoom session={session} />} />
          <Route path="builds/:code/sheet" element={<Sheet session={session} />} />
          <Route path="builds/:code" element={<Navigate to="bench" replace />} />
          <Route
            path="*"
            element={<Notice title="There is nothing here" text="No page has this address." back />}
          />
        </Routes>
      </Boundary>
      {ended && <SignInAgain login={session.login} onDone={() => setEnded(false)} />}
    </div>
  );
}
