import { Injectable } from '@angular/core';
import { MatDatepickerIntl } from '@angular/material/datepicker';

/** The words of Material's calendar, in the reader's language. */
@Injectable()
export class DatepickerWords extends MatDatepickerIntl {
  override calendarLabel = $localize`Calendar`;
  override openCalendarLabel = $localize`Open calendar`;
  override closeCalendarLabel = $localize`Close calendar`;
  override prevMonthLabel = $localize`Previous month`;
  override nextMonthLabel = $localize`Next month`;
  override prevYearLabel = $localize`Previous year`;
  override nextYearLabel = $localize`Next year`;
  override prevMultiYearLabel = $localize`Previous 24 years`;
  override nextMultiYearLabel = $localize`Next 24 years`;
  override switchToMonthViewLabel = $localize`Choose date`;
  override switchToMultiYearViewLabel = $localize`Choose month and year`;
}
