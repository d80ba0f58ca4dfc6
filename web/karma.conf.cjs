/** Headless Chromium as Debian packages it; results also go to a file that the test runner adds up. */
const fs = require('node:fs');

function TallyReporter(baseReporterDecorator) {
  baseReporterDecorator(this);
  const failures = [];
  const bySpec = this.specFailure;
  this.specFailure = (browser, result) => {
    failures.push({
      name: [...result.suite, result.description].join(' '),
      words: result.log.join('\n'),
    });
    bySpec.call(this, browser, result);
  };
  this.onRunComplete = (_browsers, results) => {
    const file = process.env.TALLY_RESULTS;
    if (!file) return;
    const { success, failed, error } = results;
    fs.writeFileSync(
      file,
      JSON.stringify({
        passed: success,
        failed: failed + (error && failed === 0 ? 1 : 0),
        failures,
      }),
    );
  };
}
TallyReporter.$inject = ['baseReporterDecorator'];

module.exports = (config) => {
  config.set({
    frameworks: ['jasmine'],
    plugins: [
      require('karma-jasmine'),
      require('karma-chrome-launcher'),
      { 'reporter:tally': ['type', TallyReporter] },
    ],
    reporters: ['dots', 'tally'],
    browsers: ['Headless'],
    customLaunchers: {
      Headless: {
        base: 'ChromeHeadless',
        flags: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
      },
    },
    // A machine under load may need seconds for what takes a tenth of one here.
    client: { jasmine: { timeoutInterval: 60_000 } },
    singleRun: true,
    // A machine that stalls for some seconds has not lost its browser.
    pingTimeout: 60_000,
    browserDisconnectTimeout: 60_000,
    browserNoActivityTimeout: 180_000,
    captureTimeout: 120_000,
    restartOnFileChange: false,
  });
};
