// Single mistakes that somebody could make: each finds its places in a line of C# or of the SQL in it, and says what would stand there instead.
const swap = (name, pairs) => ({
  name,
  at(line) {
    const found = [];
    for (const [from, to] of pairs)
      for (let i = line.indexOf(from); i >= 0; i = line.indexOf(from, i + 1)) found.push({ from: i, length: from.length, to });
    return found;
  },
});

export const operators = [
  swap('equality', [
    [' == ', ' != '],
    [' != ', ' == '],
    [' is null', ' is not null'],
    [' is not null', ' is null'],
  ]),
  swap('boundary', [
    [' <= ', ' < '],
    [' >= ', ' > '],
    [' < ', ' <= '],
    [' > ', ' >= '],
  ]),
  swap('direction', [
    [' < ', ' > '],
    [' > ', ' < '],
    ['.OrderBy(', '.OrderByDescending('],
    ['.First(', '.Last('],
    ['.FirstOrDefault(', '.LastOrDefault('],
    ['Math.Min(', 'Math.Max('],
    ['Math.Max(', 'Math.Min('],
  ]),
  swap('connective', [
    [' && ', ' || '],
    [' || ', ' && '],
    ['.Any(', '.All('],
    ['.All(', '.Any('],
    [' and not exists', ' and exists'],
  ]),
  swap('negation', [
    ['if (!', 'if ('],
    ['=> !', '=> '],
    ['(true)', '(false)'],
    ['(false)', '(true)'],
    ['= true;', '= false;'],
    ['= false;', '= true;'],
  ]),
  swap('arithmetic', [
    [' + 1', ''],
    [' - 1', ''],
    [' += ', ' -= '],
    [' -= ', ' += '],
    [' * ', ' + '],
    [' - ', ' + '],
  ]),
  {
    name: 'a statement left out',
    at: (line) => (/^\s+(await )?[A-Za-z_][\w.]*\([^;{}]*\);$/.test(line) ? [{ from: 0, length: line.length, to: ';' }] : []),
  },
  {
    name: 'a clause of SQL left out',
    at: (line) => {
      const clause = / (order by [\w. ]+|for update( skip locked)?| and [a-z_.]+ (=|<|>|<=|>=) [^\s"]+)$/.exec(line);
      return clause && !/[;{(]$/.test(line) ? [{ from: clause.index, length: clause[0].length, to: '' }] : [];
    },
  },
];

/** What is no code, or says something to people: a mistake there is another matter. */
export const isSkipped = (line) =>
  /^\s*(\/\/|\/\*|\*|using |namespace |\[|#)/.test(line) || /throw |Exception\(|LogError|LogWarning|LogInformation|Milestone\(/.test(line);
