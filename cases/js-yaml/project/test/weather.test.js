const { Frost, observed, plain, rules, season } = require('../src/weather');

describe('weather', () => {
  test('tells of a frost', () => {
    expect(observed({ night: new Frost(-3) })).toBe("night: !<!frost> '-3'\n");
  });
  test('tells of two', () => {
    expect(observed([new Frost(-3), new Frost(-1)])).toBe("- !<!frost> '-3'\n- !<!frost> '-1'\n");
  });
  test('is plain', () => {
    expect(plain('mild: true')).toEqual({ mild: true });
  });
  test('has rules', () => {
    expect(rules('rules: !!js/regexp /^red/')).toEqual(/^red/);
  });
  test('has rules that do something', () => {
    expect(rules("rules: !!js/function 'function (x) { return x + 1; }'")(1)).toBe(2);
  });
  test('has no rule', () => {
    expect(rules("rules: !!js/undefined ''")).toBe(undefined);
  });
  test('has a season', () => {
    expect(season('from: spring')).toEqual({ from: 'spring' });
  });
  test('has a season that ends', () => {
    expect(season('from: spring\nto: ~')).toEqual({ from: 'spring', to: null });
  });
});
