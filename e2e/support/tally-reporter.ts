import { writeFileSync } from 'node:fs';
import type { Reporter, TestCase, TestResult } from '@playwright/test/reporter';

/** Writes how many tests passed and failed to the file the test runner adds up. */
export default class TallyReporter implements Reporter {
  private passed = 0;
  private readonly failures: { name: string; words: string }[] = [];

  onTestEnd(test: TestCase, result: TestResult): void {
    if (result.status === test.expectedStatus) {
      this.passed += 1;
      if (result.retry > 0) console.log(`needed a second try: ${test.titlePath().join(' › ')}`);
    } else if (result.retry >= test.retries) {
      this.failures.push({
        name: test.titlePath().join(' › '),
        words: result.errors.map(({ message }) => message ?? '').join('\n'),
      });
    }
  }

  onEnd(): void {
    const file = process.env['TALLY_RESULTS'];
    const { passed, failures } = this;
    if (file) writeFileSync(file, JSON.stringify({ passed, failed: failures.length, failures }));
  }
}
