import { writeFileSync } from 'node:fs';
import type { Reporter, TestCase, TestResult } from '@playwright/test/reporter';

/** Writes how many tests passed and failed to the file the test runner adds up. */
export default class TallyReporter implements Reporter {
  private passed = 0;
  private failed = 0;

  onTestEnd(test: TestCase, result: TestResult): void {
    if (result.status === test.expectedStatus) {
      this.passed += 1;
      if (result.retry > 0) console.log(`needed a second try: ${test.titlePath().join(' › ')}`);
    } else if (result.retry >= test.retries) this.failed += 1;
  }

  onEnd(): void {
    const file = process.env['TALLY_RESULTS'];
    if (file) writeFileSync(file, JSON.stringify({ passed: this.passed, failed: this.failed }));
  }
}
