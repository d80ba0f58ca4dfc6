import type { Routes } from '@angular/router';
import { Bench } from './bench/bench';

export const routes: Routes = [
  { path: '', component: Bench, title: 'Bench · Tally Stone' },
  {
    path: 'run/:cycleId',
    loadComponent: () => import('./run/run').then((m) => m.Run),
    title: 'At the bench · Tally Stone',
  },
  {
    path: 'blade/:bladeId',
    loadComponent: () => import('./blade/blade').then((m) => m.Blade),
    title: 'Blade · Tally Stone',
  },
  {
    path: 'register',
    loadComponent: () => import('./register/register').then((m) => m.Register),
    title: 'New blades · Tally Stone',
  },
  {
    path: 'batch',
    loadComponent: () => import('./batch/batch-page').then((m) => m.BatchPage),
    title: 'Batch · Tally Stone',
  },
  {
    path: 'ahead',
    loadComponent: () => import('./ahead/ahead').then((m) => m.Ahead),
    title: 'Months ahead · Tally Stone',
  },
  {
    path: 'shop',
    loadComponent: () => import('./setup/setup').then((m) => m.Setup),
    title: 'Shop · Tally Stone',
  },
  {
    path: 'shop/balancer/:balancerId',
    loadComponent: () => import('./setup/calibrate').then((m) => m.Calibrate),
    title: 'Calibrate a balancer · Tally Stone',
  },
  { path: '**', redirectTo: '' },
];
