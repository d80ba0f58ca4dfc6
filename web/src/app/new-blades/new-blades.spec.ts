import { AWAY, problem, Served } from '../../testing/served';
import { SPEC } from '../../testing/views';
import { NewBlades } from './new-blades';

describe('NewBlades', () => {
  it('registers several at once and lists the codes to stamp in order', async () => {
    const screen = await Served.open(NewBlades, {
      '/api/v1/specs': [SPEC],
      'POST register-blades': {
        commandId: 'c',
        sequence: 1,
        blades: [
          { bladeId: 'a', code: '4447M' },
          { bladeId: 'b', code: '444CC' },
        ],
      },
    });
    await screen.enter('How many', '2');
    await screen.click('Give them codes');
    expect(screen.commands[0]).toEqual(jasmine.objectContaining({ count: 2, specId: SPEC.specId }));
    const codes = [...screen.element.querySelectorAll('li a')].map((each) =>
      each.textContent?.trim(),
    );
    expect(codes).toEqual(['4447M', '444CC']);
  });

  it('names the field that is wrong and keeps what was typed', async () => {
    const screen = await Served.open(NewBlades, {
      '/api/v1/specs': [SPEC],
      'POST register-blades': problem(
        '/problems/invalid-input',
        'is more than this shop takes',
        'count',
      ),
    });
    await screen.enter('How many', '0');
    await screen.click('Give them codes');
    expect(await screen.wrongAt('How many')).toContain('must be at least 1');
    expect(await screen.valueOf('How many')).toBe('0');
    await screen.enter('How many', '3');
    await screen.click('Give them codes');
    expect(await screen.wrongAt('How many')).toContain('more than this shop takes');
  });

  it('has nothing to press before the specs have come: a press would be lost', async () => {
    const screen = await Served.open(NewBlades, { '/api/v1/specs': AWAY });
    expect(screen.element.querySelector('button')).toBeNull();
    expect(screen.text).toContain('The server does not answer');
  });

  it('sends a shop without specs to make one', async () => {
    const screen = await Served.open(NewBlades, { '/api/v1/specs': [] });
    expect(screen.text).toContain('No blade spec is known yet. Add the first spec');
  });
});
