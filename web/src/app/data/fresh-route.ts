import { Injectable } from '@angular/core';
import { BaseRouteReuseStrategy, type ActivatedRouteSnapshot } from '@angular/router';

/** Another blade is another screen: nothing of the one before stays in it. */
@Injectable()
export class FreshRoute extends BaseRouteReuseStrategy {
  override shouldReuseRoute(future: ActivatedRouteSnapshot, now: ActivatedRouteSnapshot): boolean {
    return (
      super.shouldReuseRoute(future, now) &&
      JSON.stringify(future.params) === JSON.stringify(now.params)
    );
  }
}
