import { Injectable } from '@angular/core';
import { MatStepperIntl } from '@angular/material/stepper';

/** The words of Material's steps, in the reader's language. */
@Injectable()
export class StepperWords extends MatStepperIntl {
  override optionalLabel = $localize`Optional`;
  override completedLabel = $localize`Completed`;
  override editableLabel = $localize`Editable`;
}
