import { lazy, Suspense } from "react";
import { Navigate, Route, Routes } from "react-router";

import { useMe } from "./api/hooks";
import { Frame } from "./parts/Frame";
import { Empty, Failed, Loading } from "./parts/states";
import { AthleteScreen } from "./screens/athlete/AthleteScreen";
import { AthletesScreen } from "./screens/athletes/AthletesScreen";
import { SessionEntry, SessionScreen } from "./screens/session/SessionScreen";
import { SignIn } from "./screens/SignIn";
import { TodayScreen } from "./screens/today/TodayScreen";
import { WeekScreen } from "./screens/week/WeekScreen";

const TapersScreen = lazy(() => import("./screens/tapers/TapersScreen"));
const ContestScreen = lazy(() => import("./screens/contest/ContestScreen"));
const CalendarScreen = lazy(() => import("./screens/calendar/CalendarScreen"));
const ArrangementsScreen = lazy(() => import("./screens/arrangements/ArrangementsScreen"));
const SeasonScreen = lazy(() => import("./screens/season/SeasonScreen"));
const FloorScreen = lazy(() => import("./screens/floor/FloorScreen"));
const FloorEntry = lazy(() => import("./screens/floor/FloorEntry"));
const MethodsScreen = lazy(() => import("./screens/methods/MethodsScreen"));
const StandingScreen = lazy(() => import("./screens/standing/StandingScreen"));
const TestsScreen = lazy(() => import("./screens/tests/TestsScreen"));
const TestScreen = lazy(() => import("./screens/tests/TestScreen"));
const RecordScreen = lazy(() => import("./screens/record/RecordScreen"));
const ImportScreen = lazy(() => import("./screens/athletes/ImportScreen"));
const SettingsScreen = lazy(() => import("./screens/settings/SettingsScreen"));
const ShorthandScreen = lazy(() => import("./screens/settings/ShorthandScreen"));
const LibraryScreen = lazy(() => import("./screens/library/LibraryScreen"));
const TemplatesScreen = lazy(() => import("./screens/templates/TemplatesScreen"));
const SquadWeekScreen = lazy(() => import("./screens/squad/SquadWeekScreen"));
const SquadTableScreen = lazy(() => import("./screens/squad/SquadTableScreen"));
const ArrivalScreen = lazy(() => import("./screens/room/ArrivalScreen"));
const LanesScreen = lazy(() => import("./screens/room/LanesScreen"));
const RackLinkScreen = lazy(() => import("./screens/room/LanesScreen").then((m) => ({ default: m.RackLinkScreen })));
const ClockScreen = lazy(() => import("./screens/room/ClockScreen"));
const ReadyScreen = lazy(() => import("./screens/room/ReadyScreen"));
const TrialsScreen = lazy(() => import("./screens/trials/TrialsScreen"));
const TrialScreen = lazy(() => import("./screens/trials/TrialScreen"));
const SensorsScreen = lazy(() => import("./screens/sensors/SensorsScreen"));
const ReviewScreen = lazy(() => import("./screens/floor/ReviewScreen"));

export function App() {
  const me = useMe();
  if (me.isPending) return <Loading what="who is signed in" />;
  if (me.isError) return <Failed error={me.error} again={() => void me.refetch()} />;
  return (
    <Suspense fallback={<Loading what="the screen" />}>
      <Routes>
        <Route path="ready/:token" element={<ReadyScreen />} />
        <Route path="rack/:token" element={<RackLinkScreen />} />
        <Route path="*" element={me.data.signed_in ? <Inside /> : <SignIn />} />
      </Routes>
    </Suspense>
  );
}

function Inside() {
  return (
      <Routes>
        <Route element={<Frame />}>
          <Route index element={<TodayScreen />} />
          <Route path="athletes" element={<AthletesScreen />} />
          <Route path="athletes/:id" element={<AthleteScreen />} />
          <Route path="athletes/import" element={<ImportScreen />} />
          <Route path="athletes/:id/standing" element={<StandingScreen />} />
          <Route path="athletes/:id/tests" element={<TestsScreen />} />
          <Route path="tests/:id" element={<TestScreen />} />
          <Route path="athletes/:id/record" element={<RecordScreen />} />
          <Route path="athletes/:id/season" element={<SeasonScreen />} />
          <Route path="athletes/:id/tapers" element={<TapersScreen />} />
          <Route path="athletes/:id/contest" element={<ContestScreen />} />
          <Route path="athletes/:id/calendar" element={<CalendarScreen />} />
          <Route path="arrangements" element={<ArrangementsScreen />} />
          <Route path="athletes/:id/week/:start?" element={<WeekScreen />} />
          <Route path="athletes/:id/session" element={<SessionEntry />} />
          <Route path="athletes/:id/session/:day/:key" element={<SessionScreen />} />
          <Route path="athletes/:id/session/:day/:key/methods/:slot" element={<MethodsScreen />} />
          <Route path="athletes/:id/session/:day/:key/squad" element={<SquadTableScreen />} />
          <Route path="squads/:id/week/:start?" element={<SquadWeekScreen />} />
          <Route path="library" element={<LibraryScreen />} />
          <Route path="templates" element={<TemplatesScreen />} />
          <Route path="settings" element={<SettingsScreen />} />
          <Route path="shorthand" element={<ShorthandScreen />} />
          <Route path="athletes/:id/trials" element={<TrialsScreen />} />
          <Route path="trials/:id" element={<TrialScreen />} />
          <Route path="sensors" element={<SensorsScreen />} />
          <Route path="room/:id" element={<ArrivalScreen />} />
          <Route path="room/:id/racks" element={<LanesScreen />} />
          <Route path="room/:id/racks/:rack" element={<LanesScreen />} />
          <Route path="room/:id/clock" element={<ClockScreen />} />
          <Route path="floor" element={<FloorEntry />} />
          <Route path="floor/:id" element={<FloorScreen />} />
          <Route path="floor/:id/review" element={<ReviewScreen />} />
          <Route path="today" element={<Navigate to="/" replace />} />
          <Route
            path="*"
            element={
              <div className="page">
                <Empty title="There is no such page.">The screens are in the bar above.</Empty>
              </div>
            }
          />
        </Route>
      </Routes>
  );
}
