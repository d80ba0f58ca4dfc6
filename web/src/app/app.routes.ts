import type { Routes } from '@angular/router';
import { Bench } from './bench/bench';

export const routes: Routes = [
  { path: '', component: Bench, title: $localize`Bench · Tally Stone` },
  {
    path: 'run/:cycleId',
    loadComponent: () => import('./run/run').then((m) => m.Run),
    title: $localize`At the bench · Tally Stone`,
  },
  {
    path: 'blade/:bladeId',
    loadComponent: () => import('./blade/blade').then((m) => m.Blade),
    title: $localize`Blade · Tally Stone`,
  },
  {
    path: 'blades',
    loadComponent: () => import('./blades/blades-page').then((m) => m.BladesPage),
    title: $localize`Blades · Tally Stone`,
  },
  {
    path: 'intake',
    loadComponent: () => import('./intake/intake-page').then((m) => m.IntakePage),
    title: $localize`Take in used blades · Tally Stone`,
  },
  {
    path: 'new-blades',
    loadComponent: () => import('./new-blades/new-blades').then((m) => m.NewBlades),
    title: $localize`New blades · Tally Stone`,
  },
  { path: 'register', redirectTo: 'new-blades' },
  { path: 'join', redirectTo: '' },
  {
    path: 'batch',
    loadComponent: () => import('./batch/batch-page').then((m) => m.BatchPage),
    title: $localize`Batch · Tally Stone`,
  },
  {
    path: 'mowers',
    loadComponent: () => import('./mowers/mowers-page').then((m) => m.MowersPage),
    title: $localize`Mowers · Tally Stone`,
  },
  {
    path: 'mower/:mowerId',
    loadComponent: () => import('./mower/mower-page').then((m) => m.MowerPage),
    title: $localize`Mower · Tally Stone`,
  },
  {
    path: 'mower/:mowerId/change',
    loadComponent: () => import('./mower/change-set').then((m) => m.ChangeSet),
    title: $localize`Change the set · Tally Stone`,
  },
  {
    path: 'rack',
    loadComponent: () => import('./rack/rack').then((m) => m.Rack),
    title: $localize`Rack · Tally Stone`,
  },
  {
    path: 'crew',
    loadComponent: () => import('./crew/crew').then((m) => m.Crew),
    title: $localize`From the crew · Tally Stone`,
  },
  {
    path: 'ahead',
    loadComponent: () => import('./ahead/ahead').then((m) => m.Ahead),
    title: $localize`Months ahead · Tally Stone`,
  },
  {
    path: 'season',
    loadComponent: () => import('./season/season-page').then((m) => m.SeasonPage),
    title: $localize`The season · Tally Stone`,
  },
  {
    path: 'shop',
    loadComponent: () => import('./shop/shop-home').then((m) => m.ShopHome),
    title: $localize`Shop · Tally Stone`,
  },
  {
    path: 'shop/people',
    loadComponent: () => import('./shop/people-page').then((m) => m.PeoplePage),
    title: $localize`People · Tally Stone`,
  },
  {
    path: 'shop/grinding',
    loadComponent: () => import('./shop/grinding-page').then((m) => m.GrindingPage),
    title: $localize`How we grind · Tally Stone`,
  },
  {
    path: 'shop/due',
    loadComponent: () => import('./shop/due-page').then((m) => m.DuePage),
    title: $localize`When sets are due · Tally Stone`,
  },
  {
    path: 'shop/costs',
    loadComponent: () => import('./shop/costs-page').then((m) => m.CostsPage),
    title: $localize`Costs · Tally Stone`,
  },
  {
    path: 'shop/this-shop',
    loadComponent: () => import('./shop/this-shop-page').then((m) => m.ThisShopPage),
    title: $localize`This shop · Tally Stone`,
  },
  {
    path: 'shop/grinders',
    loadComponent: () => import('./shop/grinders-page').then((m) => m.GrindersPage),
    title: $localize`Grinders · Tally Stone`,
  },
  {
    path: 'shop/balancers',
    loadComponent: () => import('./shop/balancers-page').then((m) => m.BalancersPage),
    title: $localize`Balancers · Tally Stone`,
  },
  {
    path: 'shop/instruments',
    loadComponent: () => import('./shop/instruments-page').then((m) => m.InstrumentsPage),
    title: $localize`Instruments · Tally Stone`,
  },
  {
    path: 'shop/specs',
    loadComponent: () => import('./shop/specs-page').then((m) => m.SpecsPage),
    title: $localize`Specs · Tally Stone`,
  },
  {
    path: 'shop/mowers',
    loadComponent: () => import('./shop/shop-mowers').then((m) => m.ShopMowers),
    title: $localize`Mowers of the shop · Tally Stone`,
  },
  {
    path: 'shop/lists',
    loadComponent: () => import('./lists/lists-page').then((m) => m.ListsPage),
    title: $localize`Bring a list in · Tally Stone`,
  },
  {
    path: 'spec/:specId',
    loadComponent: () => import('./spec/spec-page').then((m) => m.SpecPage),
    title: $localize`Limits of a spec · Tally Stone`,
  },
  {
    path: 'shop/balancer/:balancerId',
    loadComponent: () => import('./shop/calibrate').then((m) => m.Calibrate),
    title: $localize`Calibrate a balancer · Tally Stone`,
  },
  { path: '**', redirectTo: '' },
];
