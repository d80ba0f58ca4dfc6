import { HttpClient, HttpParams, type HttpEvent } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import {
  STAND_PATH,
  type CalendarAddress,
  type CalendarAddressAct,
  type CalendarAddressView,
  type StandAsked,
  type LivesView,
  type RegisterView,
  type ShiftView,
  type RecordView,
  type SessionView,
  type SchoolCostsView,
  type SeasonView,
  pathOf,
  IMPORT_PATH,
  PACKAGE_MEDIA_TYPE,
  PHOTOS_PATH,
  type AheadView,
  type BatchView,
  type BenchView,
  type BladeList,
  type BladeView,
  type CodeAnswer,
  type AcceptedCommand,
  type CommandInput,
  type CycleView,
  type EdgesByGrass,
  type FleetView,
  type GrassView,
  type DevicesView,
  type JoinLink,
  type Health,
  type InstrumentActInput,
  type InstrumentAnswer,
  type LeaseAct,
  type LeaseView,
  type MachinesView,
  type MadeMachine,
  type MakeMachine,
  type LimitPreview,
  type MowerView,
  type Person,
  type PhotoAnswer,
  type PlanView,
  type RackView,
  type SetOffer,
  type ShopView,
  type SpecFigures,
  type SpecRevision,
} from '@tally-stone/contract';
import type { Observable } from 'rxjs';

/** The server's routes as observables. Paths and shapes are the contract's. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  readonly health = (): Observable<Health> => this.http.get<Health>(pathOf('health'));
  readonly bench = (): Observable<BenchView> => this.http.get<BenchView>(pathOf('bench'));
  readonly batch = (): Observable<BatchView> => this.http.get<BatchView>(pathOf('batch'));
  readonly shift = (): Observable<ShiftView> => this.http.get<ShiftView>(pathOf('shift'));
  readonly session = (): Observable<SessionView> => this.http.get<SessionView>(pathOf('session'));
  readonly signIn = (who: { personId: string; pin: string }): Observable<SessionView> =>
    this.http.post<SessionView>(pathOf('signIn'), who);
  readonly signOut = (how: { everywhere: boolean }): Observable<SessionView> =>
    this.http.post<SessionView>(pathOf('signOut'), how);
  readonly firstStart = (who: {
    code: string;
    name: string;
    pin: string;
  }): Observable<SessionView> => this.http.post<SessionView>(pathOf('firstStart'), who);
  readonly calendarAddress = (): Observable<CalendarAddressView> =>
    this.http.get<CalendarAddressView>(pathOf('calendarAddress'));
  readonly changeCalendarAddress = (asked: CalendarAddressAct): Observable<CalendarAddress> =>
    this.http.post<CalendarAddress>(pathOf('changeCalendarAddress'), asked);
  readonly machines = (): Observable<MachinesView> =>
    this.http.get<MachinesView>(pathOf('machines'));
  readonly makeMachine = (asked: MakeMachine): Observable<MadeMachine> =>
    this.http.post<MadeMachine>(pathOf('makeMachine'), asked);
  readonly endMachine = (id: string): Observable<MachinesView> =>
    this.http.post<MachinesView>(pathOf('endMachine', { id }), {});
  readonly joinLink = (whose: { personId: string }): Observable<JoinLink> =>
    this.http.post<JoinLink>(pathOf('joinLink'), whose);
  readonly join = (token: string): Observable<SessionView> =>
    this.http.post<SessionView>(pathOf('join'), { token });
  readonly devices = (): Observable<DevicesView> => this.http.get<DevicesView>(pathOf('devices'));
  readonly endDevice = (id: string): Observable<DevicesView> =>
    this.http.post<DevicesView>(pathOf('endDevice', { id }), {});
  readonly record = (): Observable<RecordView> => this.http.get<RecordView>(pathOf('record'));
  readonly schoolCosts = (): Observable<SchoolCostsView> =>
    this.http.get<SchoolCostsView>(pathOf('schoolCosts'));
  readonly ahead = (): Observable<AheadView> => this.http.get<AheadView>(pathOf('ahead'));
  readonly season = (): Observable<SeasonView> => this.http.get<SeasonView>(pathOf('season'));
  readonly fleet = (): Observable<FleetView> => this.http.get<FleetView>(pathOf('fleet'));
  readonly grass = (mowerId: string): Observable<GrassView> =>
    this.http.get<GrassView>(pathOf('grass', { id: mowerId }));
  readonly edgesByGrass = (): Observable<EdgesByGrass> =>
    this.http.get<EdgesByGrass>(pathOf('edgesByGrass'));
  readonly offer = (deckId: string, codes: readonly string[] = []): Observable<SetOffer> =>
    this.http.get<SetOffer>(pathOf('offer', { id: deckId }), {
      params: codes.length > 0 ? { with: codes.join(',') } : {},
    });
  readonly replacement = (deckId: string): Observable<SetOffer> =>
    this.http.get<SetOffer>(pathOf('replacement', { id: deckId }));
  readonly rack = (): Observable<RackView> => this.http.get<RackView>(pathOf('rack'));
  readonly specPreview = (specId: string, figures: SpecFigures): Observable<LimitPreview> =>
    this.http.post<LimitPreview>(pathOf('limitPreview', { id: specId }), { figures });
  readonly people = (): Observable<Person[]> => this.http.get<Person[]>(pathOf('people'));
  readonly mowers = (): Observable<MowerView[]> => this.http.get<MowerView[]>(pathOf('mowers'));
  readonly specs = (): Observable<SpecRevision[]> => this.http.get<SpecRevision[]>(pathOf('specs'));

  blades(query: Record<string, string>): Observable<BladeList> {
    const params = new HttpParams({ fromObject: query });
    return this.http.get<BladeList>(pathOf('blades'), { params });
  }

  livesLeft(bladeIds: readonly string[]): Observable<LivesView> {
    return this.http.get<LivesView>(pathOf('livesLeft'), { params: { ids: bladeIds.join() } });
  }

  register(query: Record<string, string>): Observable<RegisterView> {
    const params = new HttpParams({ fromObject: query });
    return this.http.get<RegisterView>(pathOf('register'), { params });
  }

  blade(id: string): Observable<BladeView> {
    return this.http.get<BladeView>(pathOf('blade', { id }));
  }

  code(text: string): Observable<CodeAnswer> {
    return this.http.get<CodeAnswer>(pathOf('code', { text }));
  }

  lease(id: string, act: LeaseAct): Observable<LeaseView> {
    return this.http.post<LeaseView>(pathOf('lease', { id }), act);
  }

  cycle(id: string): Observable<CycleView> {
    return this.http.get<CycleView>(pathOf('cycle', { id }));
  }

  plan(id: string): Observable<PlanView> {
    return this.http.get<PlanView>(pathOf('plan', { id }));
  }

  readonly instruments = (): Observable<InstrumentAnswer> =>
    this.http.get<InstrumentAnswer>(pathOf('instruments'));
  readonly shop = (): Observable<ShopView> => this.http.get<ShopView>(pathOf('shop'));

  instrument(key: string, act: InstrumentActInput): Observable<InstrumentAnswer> {
    return this.http.post<InstrumentAnswer>(pathOf('instrument', { key }), act);
  }

  /** A picture of the blade in hand by the simulated photo stand. */
  standPhoto(asked: StandAsked): Observable<Blob> {
    const params = new HttpParams({ fromObject: { ...asked, mat: String(asked.mat) } });
    return this.http.get(STAND_PATH, { params, responseType: 'blob' });
  }

  /** Sends a photo's file; a command with the name answered puts it on a blade. */
  photo(file: Blob): Observable<PhotoAnswer> {
    const form = new FormData();
    form.append('photo', file, 'photo');
    return this.http.post<PhotoAnswer>(PHOTOS_PATH, form);
  }

  /** Brings a whole shop in; what comes back says line by line how far it is. Unsubscribing cancels it. */
  bringShop(file: Blob): Observable<HttpEvent<string>> {
    return this.http.post(IMPORT_PATH, file, {
      headers: { 'Content-Type': PACKAGE_MEDIA_TYPE },
      observe: 'events',
      reportProgress: true,
      responseType: 'text',
    });
  }

  command(command: CommandInput): Observable<AcceptedCommand> {
    return this.http.post<AcceptedCommand>(pathOf('command'), command);
  }
}
