/// <summary>How one kind of value stands in addresses.</summary>
internal abstract record Key
{
    /// <summary>The value and whether it is spelled canonically; null if the text is not one.</summary>
    public abstract (object Value, bool IsCanonical)? Read(string text);

    public virtual string Write(object value) => Convert.ToString(value, CultureInfo.InvariantCulture)!;

    public sealed record Whole(long Min, long Max, int Width = 0) : Key
    {
        public override (object, bool)? Read(string text)
        {
            var digits = text.AsSpan().TrimStart('-').TrimStart('+');
            if (
                text.Length > 64
                || text.Length - digits.Length > 1
                || digits.IsEmpty
                || digits.ContainsAnyExceptInRange('0', '9')
                || (Width > 0 && text.Length != Width)
            )
                return null;
            return
                long.TryParse(text, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var value)
                && value >= Min
                && value <= Max
                ? (value, text == Write(value))
                : null;
        }

        public override string Write(object value) =>
            ((long)value).ToString(Width > 0 ? new string('0', Width) : "0", CultureInfo.InvariantCulture);
    }

    public sealed record Number(bool IsWhole) : Key
    {
        public override (object, bool)? Read(string text)
        {
            if (text.Length > 64 || Form.Match(text) is not { Success: true } match)
                return null;
            var (front, behind) = (match.Groups[1].Value.TrimStart('0'), match.Groups[2].Value.TrimEnd('0'));
            if (front.Length + behind.Length > 28 || (IsWhole && behind.Length > 0))
                return null;
            var value = decimal.Parse(
                text,
                NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture
            );
            return (value, text == Write(value));
        }

        public override string Write(object value) =>
            ((decimal)value == 0 ? 0m : (decimal)value).ToString("0.############################", CultureInfo.InvariantCulture);

        private static Regex Form { get; } = new(@"\A[-+]?([0-9]+)(?:\.([0-9]+))?\z", RegexOptions.CultureInvariant);
    }

    public sealed record Text(int Longest = int.MaxValue, string? Form = null, bool Folds = false) : Key
    {
        private Regex? Pattern { get; } =
            Form is null
                ? null
                : new Regex(
                    $@"\A(?:{Form})\z",
                    RegexOptions.NonBacktracking
                        | RegexOptions.CultureInvariant
                        | (Folds ? RegexOptions.IgnoreCase : RegexOptions.None)
                );

        public override (object, bool)? Read(string text) =>
            Encoding.UTF8.GetByteCount(text) > 4096 || text.Length > Longest || Pattern?.IsMatch(text) == false
                ? null
                : (text, true);
    }

    public sealed record Uuid : Key
    {
        public override (object, bool)? Read(string text)
        {
            var form = text.Length switch
            {
                32 => "N",
                36 => "D",
                38 => "B",
                _ => null,
            };
            if (
                form is null
                || (form == "B" ? text[1..^1] : text).AsSpan().ContainsAnyExcept("0123456789abcdefABCDEF-")
                || !Guid.TryParseExact(text, form, out var value)
            )
                return null;
            return (value, text == value.ToString("D"));
        }
    }

    public sealed record Day : Key
    {
        public override (object, bool)? Read(string text) =>
            text.Length == 10
            && DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var value)
            && Write(value) == text
                ? (value, true)
                : null;

        public override string Write(object value) => ((DateOnly)value).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
    }

    public sealed record Boolean : Key
    {
        public override (object, bool)? Read(string text) =>
            text.Equals("true", StringComparison.OrdinalIgnoreCase) || text == "1" ? (true, text == "true")
            : text.Equals("false", StringComparison.OrdinalIgnoreCase) || text == "0" ? (false, text == "false")
            : null;

        public override string Write(object value) => (bool)value ? "true" : "false";
    }

    public sealed record Word(params string[] Words) : Key
    {
        public override (object, bool)? Read(string text) => Words.Contains(text) ? (text, true) : null;
    }
}

/// <summary>A segment of a path: a literal, or a parameter between a prefix and a suffix.</summary>
internal sealed record Piece(string Before, string? Parameter = null, string Behind = "");

internal sealed record Parameter(string Name, Key Key, bool IsOptional = false, bool IsMany = false, string? YearOf = null);

internal sealed record Plan(
    string Page,
    Piece[] Path,
    Parameter[] Parameters,
    Piece[][] Was,
    Func<IReadOnlyDictionary<string, object>, Reading> Read
);

/// <summary>Reads and writes addresses as the service does.</summary>
public static partial class Addresses
{
    private static readonly Lazy<Level> Table = new(MakeTable);

    /// <summary>Reads an address back into its page and parameters.</summary>
    /// <param name="address">A path with its query string, or a whole URL.</param>
    public static Reading Read(string address)
    {
        if (Split(address) is not var (segments, query, isOutside, isBare))
            return new Reading.Malformed(null, null);
        if (isOutside || (segments.Count > 0 && segments[0] == "_jexa"))
            return new Reading.NoPage();
        var places = Match(Table.Value, segments, segments.Count, 0);
        if (segments.Count == 0 && places.Count == 0)
            return Home is null ? new Reading.NoPage() : Read(Home) with { IsCanonical = false };
        var canonical = !isBare;
        if (
            segments.Count > 0
            && segments[^1] == ""
            && !segments.Take(segments.Count - 1).Contains("")
            && Match(Table.Value, segments, segments.Count - 1, 0) is { Count: > 0 } without
        )
            (places, canonical) = (without, false);
        // A page whose parameter is nearly named goes before all others: reading it refuses the name.
        bool IsMisnamed(Place place) =>
            places.Count > 1
            && query.Any(pair =>
                place.InQuery.Any(name => IsNear(pair.Name, name)) && !places.Any(other => other.InQuery.Contains(pair.Name))
            );
        var ranked = places
            .Select(place =>
                (
                    Place: place,
                    Needs: place.Needs,
                    Absent: place.Needs.Count(name => !query.Any(pair => pair.Name == name)),
                    IsMisnamed: IsMisnamed(place)
                )
            )
            .OrderByDescending(one => one.IsMisnamed)
            .ThenBy(one => one.Absent > 0)
            .ThenBy(one => one.Absent)
            .ThenByDescending(one => one.Needs.Length)
            .ToList();
        if (ranked.Count == 0)
            return new Reading.NoPage();
        var ((plan, path, isNow), needs, absent, isMisnamed) = ranked[0];
        if (!isMisnamed && ranked.Count > 1 && absent == 0 && ranked[1].Absent == 0 && needs.Length == ranked[1].Needs.Length)
            return new Reading.Malformed(plan.Page, needs.FirstOrDefault());

        canonical &= isNow;
        var values = new Dictionary<string, object>();
        Reading? refused = null;
        foreach (var parameter in plan.Parameters)
        {
            var (read, fault, isCanonical) = ReadOne(parameter, path, segments, query);
            canonical &= isCanonical;
            if (fault)
                refused ??= new Reading.Malformed(plan.Page, parameter.Name);
            else if (read.Count == 0 && !parameter.IsOptional)
                refused ??= new Reading.Missing(plan.Page, parameter.Name);
            if (read.Count > 0)
                values[parameter.Name] = parameter.IsMany ? read : read[0];
        }

        if (refused is not null)
            return refused;
        if (
            plan.Parameters.FirstOrDefault(month =>
                month.YearOf is not null && values.ContainsKey(month.Name) && !values.ContainsKey(month.YearOf)
            ) is
            { } alone
        )
            return new Reading.Malformed(plan.Page, alone.Name);
        return Written(plan, values) is { } written
            ? plan.Read(values) with
            {
                IsCanonical = canonical,
                Address = written,
                Wanted = WantedOf(query),
            }
            : new Reading.Malformed(plan.Page, plan.Parameters.FirstOrDefault()?.Name);
    }

    /// <summary>The controls of a list in its address.</summary>
    private static Wanted WantedOf(List<(string Name, string? Value)> query)
    {
        string? Of(string name) => query.FirstOrDefault(pair => pair.Name == name && !string.IsNullOrEmpty(pair.Value)).Value;
        return new Wanted(
            Of("find"),
            Of("order"),
            int.TryParse(Of("size"), NumberStyles.None, CultureInfo.InvariantCulture, out var size) ? size : null,
            Of("after"),
            Of("before")
        );
    }

    /// <summary>The address for some values.</summary>
    internal static string Write(string page, Wanted? wanted, params (string Name, object? Value)[] given)
    {
        var plan = Plans.First(one => one.Page == page);
        var values = given.Where(pair => pair.Value is not null).ToDictionary(pair => pair.Name, pair => pair.Value!);
        if (
            Written(plan, values) is not { } written
            || Read(written) is var back && (back.GetType() != plan.Read(values).GetType() || back.Address != written)
        )
            throw new AddressException(
                $"No address of “{page}” can carry {string.Join(", ", values.Select(pair => $"{pair.Key} = {pair.Value}"))}."
            );
        var address = new StringBuilder(written);
        foreach (
            var (name, value) in new (string, string?)[]
            {
                ("find", wanted?.Find),
                ("order", wanted?.Order),
                ("size", wanted?.Size?.ToString(CultureInfo.InvariantCulture)),
                ("after", wanted?.After),
                ("before", wanted?.Before),
            }
        )
            if (!string.IsNullOrEmpty(value))
                address
                    .Append(address.ToString().Contains('?') ? '&' : '?')
                    .Append(name)
                    .Append('=')
                    .Append(Uri.EscapeDataString(value));
        return address.ToString();
    }

    internal static string Base => string.Concat(Mount.Select(segment => "/" + Uri.EscapeDataString(segment)));

    /// <summary>The values of one parameter that may be given several times, as their type.</summary>
    internal static IReadOnlyList<T>? Several<T>(object? values) =>
        values is IEnumerable<object> several ? [.. several.Cast<T>()] : null;

    private static string? Written(Plan plan, Dictionary<string, object> values)
    {
        var address = new StringBuilder(Base);
        if (plan.Path.Length == 0)
            address.Append('/');
        foreach (var piece in plan.Path)
        {
            address.Append('/').Append(Uri.EscapeDataString(piece.Before));
            if (piece.Parameter is null)
                continue;
            if (
                Texts(plan.Parameters.First(one => one.Name == piece.Parameter), values) is not [{ } text, ..]
                || piece.Before + text + piece.Behind is "." or ".."
            )
                return null;
            address.Append(Uri.EscapeDataString(text)).Append(Uri.EscapeDataString(piece.Behind));
        }

        var separator = '?';
        foreach (var parameter in plan.Parameters.Where(parameter => !plan.Path.Any(piece => piece.Parameter == parameter.Name)))
        {
            var texts = Texts(parameter, values);
            if (texts.Contains(null) || (texts.Count == 0 && !parameter.IsOptional))
                return null;
            foreach (var text in texts)
            {
                address.Append(separator).Append(parameter.Name).Append('=').Append(Uri.EscapeDataString(text!));
                separator = '&';
            }
        }

        return address.ToString();
    }

    /// <summary>The texts of a parameter; null for one that no URL can carry.</summary>
    private static List<string?> Texts(Parameter parameter, Dictionary<string, object> values)
    {
        if (!values.TryGetValue(parameter.Name, out var value))
            return [];
        IEnumerable<object> several =
            parameter.IsMany && value is System.Collections.IEnumerable many and not string ? many.Cast<object>() : [value];
        return
        [
            .. several
                .Select(one => parameter.Key.Write(one))
                .Select(text =>
                    text.Length > 0
                    && IsPure(text)
                    && Encoding.UTF8.GetByteCount(text) <= 4096
                    && Uri.EscapeDataString(text).Length <= 4096
                        ? text
                        : null
                ),
        ];
    }

    private static bool IsPure(string text)
    {
        for (var i = 0; i < text.Length; i++)
        {
            if (text[i] == '\0' || char.IsLowSurrogate(text[i]))
                return false;
            if (!char.IsHighSurrogate(text[i]))
                continue;
            if (++i >= text.Length || !char.IsLowSurrogate(text[i]))
                return false;
        }

        return true;
    }

    private static (List<object> Values, bool IsFault, bool IsCanonical) ReadOne(
        Parameter parameter,
        Piece[] path,
        List<string?> segments,
        List<(string Name, string? Value)> query
    )
    {
        var given = new List<string?>();
        var at = Array.FindIndex(path, piece => piece.Parameter == parameter.Name);
        if (at >= 0)
            given.Add(segments[at] is { } segment ? segment[path[at].Before.Length..^path[at].Behind.Length] : null);
        else
        {
            foreach (var (name, value) in query)
            {
                if (name == parameter.Name)
                    given.Add(value);
                else if (IsNear(name, parameter.Name))
                    given.Add(null);
                if (given.Count > 0 && given[^1] is null)
                    break;
            }
        }

        var values = new List<object>();
        var canonical = true;
        foreach (var text in given)
        {
            if (text is null || (parameter.IsMany && values.Count == 50))
                return ([], true, true);
            if (text.Length == 0)
            {
                canonical = false;
                continue;
            }

            if (parameter.Key.Read(text) is not var (value, isCanonical))
                return ([], true, true);
            canonical &= isCanonical && !values.Contains(value);
            if (!parameter.IsMany || !values.Contains(value))
                values.Add(value);
        }

        return !parameter.IsMany && given.Count > 1 ? ([], true, true) : (values, false, canonical);
    }

    private static bool IsNear(string given, string name) =>
        given != name && Folded(given) is { Length: > 0 } folded && folded == Folded(name);

    private static string Folded(string name) => string.Concat(name.Where(char.IsLetterOrDigit).Select(char.ToLowerInvariant));

    private static (List<string?> Segments, List<(string Name, string? Value)> Query, bool IsOutside, bool IsBare)? Split(
        string address
    )
    {
        var start = 0;
        if (!address.StartsWith('/'))
        {
            var scheme =
                address.StartsWith("http://", StringComparison.OrdinalIgnoreCase) ? 7
                : address.StartsWith("https://", StringComparison.OrdinalIgnoreCase) ? 8
                : -1;
            var behind = scheme < 0 ? -1 : address.AsSpan(scheme).IndexOfAny("/?#\\");
            if (behind < 0 || address[scheme + behind] != '/')
                return null;
            start = scheme + behind;
        }

        var target = address[start..];
        if (target.Any(c => c is <= ' ' or '\\' or '#' or >= '\x7f'))
            return null;
        var question = target.IndexOf('?');
        var path = question < 0 ? target : target[..question];
        List<string?> segments =
            path.Length <= 1 ? [] : [.. path[1..].Split('/').Select(part => part.Contains('%') ? Decoded(part) : part)];
        if (segments.Any(segment => segment is "." or ".."))
            return null;
        var isOutside = segments.Count < Mount.Length || Mount.Where((segment, i) => segments[i] != segment).Any();
        if (!isOutside)
            segments = segments[Mount.Length..];
        var isBare = Mount.Length > 0 && segments.Count == 0;
        if (Mount.Length > 0 && segments is [""])
            segments = [];
        var query = new List<(string, string?)>();
        foreach (var pair in question < 0 ? [] : target[(question + 1)..].Split('&', StringSplitOptions.RemoveEmptyEntries))
        {
            var equals = pair.IndexOf('=');
            if (Decoded((equals < 0 ? pair : pair[..equals]).Replace('+', ' ')) is { } name)
                query.Add((name, equals < 0 ? "" : Decoded(pair[(equals + 1)..].Replace('+', ' '))));
        }

        return (segments, query, isOutside, isBare);
    }

    /// <summary>
    /// Strictly: whole pairs of hexadecimal digits, bytes that are UTF-8, no NUL. Null if that does not hold.
    /// </summary>
    private static string? Decoded(string part)
    {
        var bytes = new List<byte>(part.Length);
        for (var i = 0; i < part.Length; i++)
        {
            if (part[i] != '%')
            {
                bytes.Add((byte)part[i]);
                continue;
            }

            if (i + 2 >= part.Length || !char.IsAsciiHexDigit(part[i + 1]) || !char.IsAsciiHexDigit(part[i + 2]))
                return null;
            bytes.Add(Convert.ToByte(part.Substring(i + 1, 2), 16));
            i += 2;
        }

        try
        {
            var text = new UTF8Encoding(false, throwOnInvalidBytes: true).GetString([.. bytes]);
            return text.Contains('\0') ? null : text;
        }
        catch (DecoderFallbackException)
        {
            return null;
        }
    }

    private static IReadOnlyList<Place> Match(Level at, List<string?> segments, int depth, int i)
    {
        if (i == depth)
            return at.Places;
        var segment = segments[i];
        if (
            segment is not null
            && at.Literals.TryGetValue(segment, out var literal)
            && Match(literal, segments, depth, i + 1) is { Count: > 0 } found
        )
            return found;
        foreach (var (before, behind, next) in at.Holes)
        {
            var fits = segment is null
                ? before.Length + behind.Length == 0
                : segment.Length >= before.Length + behind.Length
                    && segment.StartsWith(before, StringComparison.Ordinal)
                    && segment.EndsWith(behind, StringComparison.Ordinal);
            if (fits && Match(next, segments, depth, i + 1) is { Count: > 0 } below)
                return below;
        }

        return [];
    }

    private static Level MakeTable()
    {
        var top = new Level();
        foreach (var plan in Plans)
        {
            foreach (var (path, isNow) in plan.Was.Select(path => (path, false)).Prepend((plan.Path, true)))
            {
                var at = top;
                foreach (var piece in path)
                {
                    if (piece.Parameter is null)
                    {
                        if (!at.Literals.TryGetValue(piece.Before, out var literal))
                            at.Literals[piece.Before] = literal = new Level();
                        at = literal;
                        continue;
                    }

                    var known = at.Holes.FindIndex(hole => hole.Before == piece.Before && hole.Behind == piece.Behind);
                    if (known < 0)
                    {
                        known = at.Holes.FindIndex(hole =>
                            (hole.Before.Length, hole.Behind.Length).CompareTo((piece.Before.Length, piece.Behind.Length)) < 0
                        );
                        if (known < 0)
                            known = at.Holes.Count;
                        at.Holes.Insert(known, (piece.Before, piece.Behind, new Level()));
                    }

                    at = at.Holes[known].Next;
                }

                at.Places.Add(new Place(plan, path, isNow));
            }
        }

        return top;
    }

    private sealed class Level
    {
        public Dictionary<string, Level> Literals { get; } = new(StringComparer.Ordinal);

        public List<(string Before, string Behind, Level Next)> Holes { get; } = [];

        public List<Place> Places { get; } = [];
    }

    private sealed record Place(Plan Plan, Piece[] Path, bool IsNow)
    {
        public string[] InQuery { get; } =
        [
            .. Plan
                .Parameters.Where(parameter => !Path.Any(piece => piece.Parameter == parameter.Name))
                .Select(parameter => parameter.Name),
        ];

        /// <summary>The query parameters without which the page is not meant.</summary>
        public string[] Needs { get; } =
        [
            .. Plan
                .Parameters.Where(parameter => !parameter.IsOptional && !Path.Any(piece => piece.Parameter == parameter.Name))
                .Select(parameter => parameter.Name),
        ];
    }
}
