using System.Globalization;

namespace Jexa.Core.Guidance;

/// <summary>
/// Where a place of a text is in the structure of an app file, even if the text is unfinished: what is being typed has no end
/// yet. Read by indentation and brackets, from the beginning up to the place.
/// </summary>
/// <param name="Place">The keys that lead there; for a key that is being typed, those of its mapping.</param>
/// <param name="IsKey">Whether a key is being typed, and not a value.</param>
/// <param name="Typed">What has been typed of it so far.</param>
public sealed record TextContext(IReadOnlyList<string> Place, bool IsKey, string Typed)
{
    /// <summary>Reads the context of an offset in UTF-16 units.</summary>
    public static TextContext At(string text, int offset) => new Reader(text, Math.Clamp(offset, 0, text.Length)).Read();

    /// <summary>
    /// Something open around the place: a mapping's key or a list's item, with its column; in brackets, its kind.
    /// </summary>
    private sealed class Level(int column, bool isFlow, bool isList)
    {
        public int Column { get; } = column;

        public bool IsFlow { get; } = isFlow;

        public bool IsList { get; } = isList;

        /// <summary>The key whose value is being read. Null if a key is being read.</summary>
        public string? Key { get; set; }

        public int Index { get; set; }

        public string? Step => IsList ? Index.ToString(CultureInfo.InvariantCulture) : Key;
    }

    private sealed class Reader(string text, int end)
    {
        private readonly List<Level> _levels = [];
        private int _at;
        private int _lineStart;
        private int _wordStart;

        /// <summary>The column that a block scalar's lines are deeper than; -1 outside of one.</summary>
        private int _scalar = -1;

        private Level? Last => _levels.Count > 0 ? _levels[^1] : null;

        private bool IsInFlow => Last is { IsFlow: true };

        public TextContext Read()
        {
            while (_at < end)
            {
                if (_at == _lineStart && !IsInFlow && !BeginLine())
                    continue;
                ReadOne();
            }

            if (_at == _lineStart && !IsInFlow)
                BeginLine();
            var typed = text[Math.Min(_wordStart, end)..end].TrimStart();
            var place = _levels.Select(level => level.Step).OfType<string>().ToList();
            // A mapping whose key is not finished has no step yet: the key is what is typed.
            var isKey = _scalar < 0 && (Last is null || (!Last.IsList && Last.Key is null));
            return new TextContext(place, isKey, Unquoted(typed));
        }

        /// <summary>Begins a line outside of brackets. False if the whole line was read.</summary>
        private bool BeginLine()
        {
            var indent = _at;
            while (indent < text.Length && text[indent] == ' ')
                indent++;
            var column = indent - _lineStart;
            var isBlank = indent >= text.Length || text[indent] is '\r' or '\n';
            if (_scalar >= 0 && (isBlank || column > _scalar))
                return SkipLine();
            _scalar = -1;
            if (indent >= end)
            {
                // Only blanks before the place: what is typed here belongs where this column says.
                Close(end - _lineStart, isItem: false);
                _at = _wordStart = end;
                Open(end - _lineStart);
                return false;
            }

            if (isBlank || text[indent] == '#')
                return SkipLine();
            Close(column, IsItem(indent));
            _at = _wordStart = indent;
            while (IsItem(_at))
            {
                NextItem(_at - _lineStart);
                _at++;
                while (_at < text.Length && text[_at] == ' ')
                    _at++;
                _wordStart = Math.Min(_at, end);
            }

            Open(_at - _lineStart);
            return _at < end;
        }

        /// <summary>Ends what is deeper than a column; what stands in the same column goes on with another key.</summary>
        private void Close(int column, bool isItem)
        {
            while (Last is { } last && (last.IsFlow || last.Column > column))
                _levels.RemoveAt(_levels.Count - 1);
            // An item may stand in the column of the key that it belongs to.
            if (Last is { IsList: false } same && same.Column == column && !isItem)
                same.Key = null;
        }

        private bool IsItem(int at) => at + 1 < text.Length && text[at] == '-' && char.IsWhiteSpace(text[at + 1]);

        /// <summary>A mapping begins at a column, unless one goes on there.</summary>
        private void Open(int column)
        {
            if (Last is { IsFlow: false, IsList: false } last && last.Column == column)
                return;
            // A list in the column of its parent's key goes on only with another hyphen.
            if (Last is { IsFlow: false, IsList: true } list && list.Column == column)
            {
                _levels.RemoveAt(_levels.Count - 1);
                if (Last is { IsFlow: false, IsList: false } parent && parent.Column == column)
                {
                    parent.Key = null;
                    return;
                }
            }

            _levels.Add(new Level(column, isFlow: false, isList: false));
        }

        private void NextItem(int column)
        {
            if (Last is { IsFlow: false, IsList: true } list && list.Column == column)
            {
                list.Index++;
                return;
            }

            if (Last is { IsFlow: false, IsList: false, Key: null })
                _levels.RemoveAt(_levels.Count - 1);
            _levels.Add(new Level(column, isFlow: false, isList: true));
        }

        private bool SkipLine()
        {
            var next = text.IndexOf('\n', _at);
            _at = next < 0 || next >= end ? end : next + 1;
            _wordStart = _at;
            _lineStart = next < 0 || next >= end ? _lineStart : _at;
            return false;
        }

        private void ReadOne()
        {
            var letter = text[_at];
            switch (letter)
            {
                case '\n':
                    _at++;
                    (_lineStart, _wordStart) = (_at, _at);
                    break;
                case '"' or '\'' when text[_wordStart.._at].Trim().Length == 0:
                    SkipQuoted(letter);
                    break;
                case '#' when _at == _lineStart || char.IsWhiteSpace(text[_at - 1]):
                    SkipComment();
                    break;
                case '{' or '[' when text[_wordStart.._at].Trim().Length == 0 && IsValue:
                    _at++;
                    _wordStart = _at;
                    _levels.Add(new Level(0, isFlow: true, isList: letter == '['));
                    break;
                case '}' or ']' when IsInFlow:
                    _at++;
                    _wordStart = _at;
                    _levels.RemoveAt(_levels.Count - 1);
                    break;
                case ',' when IsInFlow:
                    _at++;
                    _wordStart = _at;
                    Last!.Key = null;
                    Last.Index++;
                    break;
                case ':'
                    when Last is { IsList: false, Key: null } map && (_at + 1 >= text.Length || char.IsWhiteSpace(text[_at + 1])):
                    map.Key = Unquoted(text[_wordStart.._at].Trim());
                    _at++;
                    _wordStart = _at;
                    break;
                case '|' or '>' when Last is { IsFlow: false, Key: not null } own && text[_wordStart.._at].Trim().Length == 0:
                    _scalar = own.Column;
                    SkipComment();
                    break;
                default:
                    _at++;
                    break;
            }
        }

        /// <summary>Whether a value can begin here.</summary>
        private bool IsValue => Last is { IsList: true } or { Key: not null } || (Last is { IsFlow: false } && _at > _lineStart);

        private void SkipQuoted(char quote)
        {
            _at++;
            while (_at < end && text[_at] != quote)
                _at += text[_at] == '\\' && quote == '"' ? 2 : 1;
            _at = Math.Min(end, _at + 1);
        }

        private void SkipComment()
        {
            var next = text.IndexOf('\n', _at);
            _at = next < 0 ? end : Math.Min(next, end);
        }

        private static string Unquoted(string word) => word.Trim('"', '\'');
    }
}
