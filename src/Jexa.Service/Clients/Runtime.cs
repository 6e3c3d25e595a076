// ---- What follows is the same in every file: values, addresses, loading, saving. ----

/// <summary>Where an app is served.</summary>
/// <param name="Http">Used for every request; its own base address is not.</param>
/// <param name="Base">The origin of the pages, such as http://127.0.0.1:7440.</param>
public sealed record Service(HttpClient Http, Uri Base);

/// <summary>No address of the page can carry these values.</summary>
public sealed class AddressException(string message) : ArgumentException(message);

/// <summary>What an address says, as far as it alone tells: <c>SomePage.At</c> with its parameters, or why it means no page.</summary>
public abstract record Reading
{
    /// <summary>Jexa itself would write it so.</summary>
    public bool IsCanonical { get; init; }

    /// <summary>As Jexa would write it; empty where it means no page.</summary>
    public string Address { get; init; } = "";

    public sealed record Missing(string Page, string Parameter) : Reading;

    /// <param name="Page">Null where it is no address at all.</param>
    public sealed record Malformed(string? Page, string? Parameter) : Reading;

    public sealed record NoPage : Reading;
}

/// <summary>An ID as it stands in addresses: one text a parameter.</summary>
public sealed record Id(IReadOnlyDictionary<string, string> Parts)
{
    /// <summary>The text of an ID of one parameter.</summary>
    public override string ToString() => string.Join("/", Parts.Values);
}

/// <summary>Another record, as a field shows it; its members are null where it is not there or may not be seen.</summary>
public sealed record Reference(Id? Id, string? Address, string? Label);

public sealed record Picture(string Name, string? Address);

public sealed record Link(string Page, string Text, string Address);

/// <param name="IsExact">False where counting stopped: there are more.</param>
public sealed record Total(long Count, bool IsExact);

public sealed record Entry<TFields>(Id? Id, string? Address, TFields Fields, IReadOnlyList<Link> Links);

public sealed record Listed<TFields>(
    string Title, Total Total, long? From, string? Notice, IReadOnlyList<Entry<TFields>> Records, string? First, string? Previous, string? Next, string? Last, string? Add, IReadOnlyList<Link> Trail);

/// <param name="Json">The whole answer, with the related records.</param>
public sealed record Shown<TFields>(string Title, Id? Id, string? Address, TFields Fields, IReadOnlyList<Link> Links, string? List, string? Previous, string? Next, IReadOnlyList<Link> Trail, JsonElement Json);

/// <summary>A record's own fields, by which it is changed.</summary>
public sealed record Held<TFields>(Id? Id, string? Address, TFields Fields);

/// <param name="Text">Markdown.</param>
public sealed record Written(string Title, string Text);

/// <summary>A record that was made.</summary>
public sealed record Made(string? Id, string Address);

public sealed record Fault(string? Field, string Detail);

/// <summary>What every list can be asked besides its own parameters. An order is a field's name, with a minus before it to turn it round.</summary>
public sealed record Wanted(string? Find = null, string? Order = null, int? Size = null, string? After = null, string? Before = null);

/// <summary>How a visit or a change ended that shows or makes nothing. <c>Detail</c> is a sentence for people.</summary>
public abstract record Failure(string Detail)
{
    public sealed record Missing(string? Parameter, string Detail) : Failure(Detail);

    public sealed record Malformed(string? Parameter, string Detail) : Failure(Detail);

    public sealed record Unknown(string Detail) : Failure(Detail);

    /// <summary>It was deleted.</summary>
    public sealed record Gone(string Detail) : Failure(Detail);

    public sealed record Ambiguous(string Detail) : Failure(Detail);

    public sealed record NoPage(string Detail) : Failure(Detail);

    public sealed record NotAllowed(string Detail) : Failure(Detail);

    public sealed record Failed(string Detail) : Failure(Detail);

    /// <summary>The source is away or slow.</summary>
    public sealed record Unavailable(string Detail, TimeSpan After) : Failure(Detail);

    /// <summary>Nothing answered.</summary>
    public sealed record Offline(string Detail) : Failure(Detail);

    /// <summary>What answered is not this app as this file knows it: another program, or another version of the app file.</summary>
    public sealed record Strange(string Detail) : Failure(Detail);
}

/// <summary>What a page shows, or how else the visit ended.</summary>
public abstract record Loaded<T>
{
    private Loaded()
    {
    }

    /// <param name="Address">The canonical one.</param>
    /// <param name="Version">What a change must name.</param>
    public sealed record Found(T Value, string Address, string? Version) : Loaded<T>;

    public sealed record Not(Failure Failure) : Loaded<T>;

    /// <summary>One of the answers, whichever it is: none can be forgotten.</summary>
    public TResult Match<TResult>(
        Func<Found, TResult> found, Func<Failure.Missing, TResult> missing, Func<Failure.Malformed, TResult> malformed, Func<Failure.Unknown, TResult> unknown, Func<Failure.Gone, TResult> gone,
        Func<Failure.Unavailable, TResult> unavailable, Func<Failure.Offline, TResult> offline, Func<Failure, TResult> otherwise) => this switch
        {
            Found value => found(value),
            Not { Failure: Failure.Missing failure } => missing(failure),
            Not { Failure: Failure.Malformed failure } => malformed(failure),
            Not { Failure: Failure.Unknown failure } => unknown(failure),
            Not { Failure: Failure.Gone failure } => gone(failure),
            Not { Failure: Failure.Unavailable failure } => unavailable(failure),
            Not { Failure: Failure.Offline failure } => offline(failure),
            _ => otherwise(((Not)this).Failure),
        };
}

/// <summary>How a change ended. After anything but <see cref="Done"/> nothing was changed; after <see cref="Failure.Offline"/> nobody knows.</summary>
public abstract record Saved<T>
{
    private Saved()
    {
    }

    public sealed record Done(T Value, string? Version) : Saved<T>;

    public sealed record Invalid(string Detail, IReadOnlyList<Fault> Faults) : Saved<T>;

    /// <summary>The record has changed since its version was read.</summary>
    public sealed record Conflict(string Detail) : Saved<T>;

    /// <summary>The source, or the service, said no.</summary>
    public sealed record Refused(string Detail, IReadOnlyList<Fault> Faults) : Saved<T>;

    public sealed record Not(Failure Failure) : Saved<T>;

    /// <summary>One of the answers, whichever it is: none can be forgotten.</summary>
    public TResult Match<TResult>(Func<Done, TResult> done, Func<Invalid, TResult> invalid, Func<Conflict, TResult> conflict, Func<Refused, TResult> refused, Func<Failure, TResult> not) => this switch
    {
        Done value => done(value),
        Invalid value => invalid(value),
        Conflict value => conflict(value),
        Refused value => refused(value),
        _ => not(((Not)this).Failure),
    };
}

/// <summary>What was answered holds a value of another type than this file knows.</summary>
internal sealed class StrangeException(string message) : Exception(message);

/// <summary>How one kind of value stands in addresses.</summary>
internal abstract record Key
{
    /// <summary>The value and whether it is spelled canonically; null where the text is none.</summary>
    public abstract (object Value, bool IsCanonical)? Read(string text);

    public virtual string Write(object value) => Convert.ToString(value, CultureInfo.InvariantCulture)!;

    public sealed record Whole(long Min, long Max, int Width = 0) : Key
    {
        public override (object, bool)? Read(string text)
        {
            var digits = text.AsSpan().TrimStart('-').TrimStart('+');
            if (text.Length > 64 || text.Length - digits.Length > 1 || digits.IsEmpty || digits.ContainsAnyExceptInRange('0', '9') || (Width > 0 && text.Length != Width)) return null;
            return long.TryParse(text, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var value) && value >= Min && value <= Max ? (value, text == Write(value)) : null;
        }

        public override string Write(object value) => ((long)value).ToString(Width > 0 ? new string('0', Width) : "0", CultureInfo.InvariantCulture);
    }

    public sealed record Number(bool IsWhole) : Key
    {
        public override (object, bool)? Read(string text)
        {
            if (text.Length > 64 || Form.Match(text) is not { Success: true } match) return null;
            var (front, behind) = (match.Groups[1].Value.TrimStart('0'), match.Groups[2].Value.TrimEnd('0'));
            if (front.Length + behind.Length > 28 || (IsWhole && behind.Length > 0)) return null;
            var value = decimal.Parse(text, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture);
            return (value, text == Write(value));
        }

        public override string Write(object value) => ((decimal)value == 0 ? 0m : (decimal)value).ToString("0.############################", CultureInfo.InvariantCulture);

        private static Regex Form { get; } = new(@"\A[-+]?([0-9]+)(?:\.([0-9]+))?\z", RegexOptions.CultureInvariant);
    }

    public sealed record Text(int Longest = int.MaxValue, string? Form = null, bool Folds = false) : Key
    {
        private Regex? Pattern { get; } = Form is null ? null : new Regex($@"\A(?:{Form})\z", RegexOptions.NonBacktracking | RegexOptions.CultureInvariant | (Folds ? RegexOptions.IgnoreCase : RegexOptions.None));

        public override (object, bool)? Read(string text) => Encoding.UTF8.GetByteCount(text) > 4096 || text.Length > Longest || Pattern?.IsMatch(text) == false ? null : (text, true);
    }

    public sealed record Uuid : Key
    {
        public override (object, bool)? Read(string text)
        {
            var form = text.Length switch { 32 => "N", 36 => "D", 38 => "B", _ => null };
            if (form is null || (form == "B" ? text[1..^1] : text).AsSpan().ContainsAnyExcept("0123456789abcdefABCDEF-") || !Guid.TryParseExact(text, form, out var value)) return null;
            return (value, text == value.ToString("D"));
        }
    }

    public sealed record Day : Key
    {
        public override (object, bool)? Read(string text) => text.Length == 10 && DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var value) && Write(value) == text ? (value, true) : null;

        public override string Write(object value) => ((DateOnly)value).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
    }

    public sealed record Truth : Key
    {
        public override (object, bool)? Read(string text) =>
            text.Equals("true", StringComparison.OrdinalIgnoreCase) || text == "1" ? (true, text == "true") : text.Equals("false", StringComparison.OrdinalIgnoreCase) || text == "0" ? (false, text == "false") : null;

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

internal sealed record Plan(string Page, Piece[] Path, Parameter[] Parameters, Piece[][] Was, Func<IReadOnlyDictionary<string, object>, Reading> Read);

/// <summary>Reads and writes addresses as the service does.</summary>
public static partial class Addresses
{
    private static readonly Lazy<Level> Table = new(MakeTable);

    /// <summary>Reads an address back into its page and parameters.</summary>
    /// <param name="address">A path with its query string, or a whole URL.</param>
    public static Reading Read(string address)
    {
        if (Split(address) is not var (segments, query, isOutside, isBare)) return new Reading.Malformed(null, null);
        if (isOutside || (segments.Count > 0 && segments[0] == "_jexa")) return new Reading.NoPage();
        var places = Match(Table.Value, segments, segments.Count, 0);
        if (segments.Count == 0 && places.Count == 0) return Home is null ? new Reading.NoPage() : Read(Home) with { IsCanonical = false };
        var canonical = !isBare;
        if (segments.Count > 0 && segments[^1] == "" && !segments.Take(segments.Count - 1).Contains("") && Match(Table.Value, segments, segments.Count - 1, 0) is { Count: > 0 } without) (places, canonical) = (without, false);
        var ranked = places.Select(place => (Place: place, Needs: place.Needs, Absent: place.Needs.Count(name => !query.Any(pair => pair.Name == name))))
            .OrderBy(one => one.Absent > 0).ThenBy(one => one.Absent).ThenByDescending(one => one.Needs.Length).ToList();
        if (ranked.Count == 0) return new Reading.NoPage();
        var ((plan, path, isNow), needs, absent) = ranked[0];
        if (ranked.Count > 1 && absent == 0 && ranked[1].Absent == 0 && needs.Length == ranked[1].Needs.Length) return new Reading.Malformed(plan.Page, needs.FirstOrDefault());

        canonical &= isNow;
        var values = new Dictionary<string, object>();
        Reading? refused = null;
        foreach (var parameter in plan.Parameters)
        {
            var (read, fault, isCanonical) = ReadOne(parameter, path, segments, query);
            canonical &= isCanonical;
            if (fault) refused ??= new Reading.Malformed(plan.Page, parameter.Name);
            else if (read.Count == 0 && !parameter.IsOptional) refused ??= new Reading.Missing(plan.Page, parameter.Name);
            if (read.Count > 0) values[parameter.Name] = parameter.IsMany ? read : read[0];
        }

        if (refused is not null) return refused;
        if (plan.Parameters.FirstOrDefault(month => month.YearOf is not null && values.ContainsKey(month.Name) && !values.ContainsKey(month.YearOf)) is { } alone) return new Reading.Malformed(plan.Page, alone.Name);
        return Written(plan, values) is { } written ? plan.Read(values) with { IsCanonical = canonical, Address = written } : new Reading.Malformed(plan.Page, plan.Parameters.FirstOrDefault()?.Name);
    }

    /// <summary>The address for some values.</summary>
    internal static string Write(string page, Wanted? wanted, params (string Name, object? Value)[] given)
    {
        var plan = Plans.First(one => one.Page == page);
        var values = given.Where(pair => pair.Value is not null).ToDictionary(pair => pair.Name, pair => pair.Value!);
        if (Written(plan, values) is not { } written || Read(written) is Reading.Missing or Reading.Malformed or Reading.NoPage || !Read(written).GetType().Equals(plan.Read(values).GetType()) || Read(written).Address != written)
            throw new AddressException($"No address of “{page}” can carry {string.Join(", ", values.Select(pair => $"{pair.Key} = {pair.Value}"))}.");
        var address = new StringBuilder(written);
        foreach (var (name, value) in new (string, string?)[] { ("find", wanted?.Find), ("order", wanted?.Order), ("size", wanted?.Size?.ToString(CultureInfo.InvariantCulture)), ("after", wanted?.After), ("before", wanted?.Before) })
            if (!string.IsNullOrEmpty(value)) address.Append(address.ToString().Contains('?') ? '&' : '?').Append(name).Append('=').Append(Uri.EscapeDataString(value));
        return address.ToString();
    }

    internal static string Base => string.Concat(Mount.Select(segment => "/" + Uri.EscapeDataString(segment)));

    /// <summary>The values of one parameter that may be given several times, as their type.</summary>
    internal static IReadOnlyList<T>? Several<T>(object? values) => values is IEnumerable<object> several ? [.. several.Cast<T>()] : null;

    private static string? Written(Plan plan, Dictionary<string, object> values)
    {
        var address = new StringBuilder(Base);
        if (plan.Path.Length == 0) address.Append('/');
        foreach (var piece in plan.Path)
        {
            address.Append('/').Append(Uri.EscapeDataString(piece.Before));
            if (piece.Parameter is null) continue;
            if (Texts(plan.Parameters.First(one => one.Name == piece.Parameter), values) is not [{ } text, ..] || piece.Before + text + piece.Behind is "." or "..") return null;
            address.Append(Uri.EscapeDataString(text)).Append(Uri.EscapeDataString(piece.Behind));
        }

        var separator = '?';
        foreach (var parameter in plan.Parameters.Where(parameter => !plan.Path.Any(piece => piece.Parameter == parameter.Name)))
        {
            var texts = Texts(parameter, values);
            if (texts.Contains(null) || (texts.Count == 0 && !parameter.IsOptional)) return null;
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
        if (!values.TryGetValue(parameter.Name, out var value)) return [];
        IEnumerable<object> several = parameter.IsMany && value is System.Collections.IEnumerable many and not string ? many.Cast<object>() : [value];
        return [.. several.Select(one => parameter.Key.Write(one)).Select(text => text.Length > 0 && IsPure(text) && Encoding.UTF8.GetByteCount(text) <= 4096 && Uri.EscapeDataString(text).Length <= 4096 ? text : null)];
    }

    private static bool IsPure(string text)
    {
        for (var i = 0; i < text.Length; i++)
        {
            if (text[i] == '\0' || char.IsLowSurrogate(text[i])) return false;
            if (!char.IsHighSurrogate(text[i])) continue;
            if (++i >= text.Length || !char.IsLowSurrogate(text[i])) return false;
        }

        return true;
    }

    private static (List<object> Values, bool IsFault, bool IsCanonical) ReadOne(Parameter parameter, Piece[] path, List<string?> segments, List<(string Name, string? Value)> query)
    {
        var given = new List<string?>();
        var at = Array.FindIndex(path, piece => piece.Parameter == parameter.Name);
        if (at >= 0) given.Add(segments[at] is { } segment ? segment[path[at].Before.Length..^path[at].Behind.Length] : null);
        else
        {
            foreach (var (name, value) in query)
            {
                if (name == parameter.Name) given.Add(value);
                else if (Folded(name) == Folded(parameter.Name)) given.Add(null);
                if (given.Count > 0 && given[^1] is null) break;
            }
        }

        var values = new List<object>();
        var canonical = true;
        foreach (var text in given)
        {
            if (text is null || (parameter.IsMany && values.Count == 50)) return ([], true, true);
            if (text.Length == 0)
            {
                canonical = false;
                continue;
            }

            if (parameter.Key.Read(text) is not var (value, isCanonical)) return ([], true, true);
            canonical &= isCanonical && !values.Contains(value);
            if (!parameter.IsMany || !values.Contains(value)) values.Add(value);
        }

        return !parameter.IsMany && given.Count > 1 ? ([], true, true) : (values, false, canonical);
    }

    private static string Folded(string name) => string.Concat(name.Where(c => c is not ('_' or '-' or '.' or ' ')).Select(char.ToLowerInvariant));

    private static (List<string?> Segments, List<(string Name, string? Value)> Query, bool IsOutside, bool IsBare)? Split(string address)
    {
        var start = 0;
        if (!address.StartsWith('/'))
        {
            var scheme = address.StartsWith("http://", StringComparison.OrdinalIgnoreCase) ? 7 : address.StartsWith("https://", StringComparison.OrdinalIgnoreCase) ? 8 : -1;
            var behind = scheme < 0 ? -1 : address.AsSpan(scheme).IndexOfAny("/?#\\");
            if (behind < 0 || address[scheme + behind] != '/') return null;
            start = scheme + behind;
        }

        var target = address[start..];
        if (target.Any(c => c is <= ' ' or '\\' or '#' or >= '\x7f')) return null;
        var question = target.IndexOf('?');
        var path = question < 0 ? target : target[..question];
        List<string?> segments = path.Length <= 1 ? [] : [.. path[1..].Split('/').Select(part => part.Contains('%') ? Decoded(part) : part)];
        if (segments.Any(segment => segment is "." or "..")) return null;
        var isOutside = segments.Count < Mount.Length || Mount.Where((segment, i) => segments[i] != segment).Any();
        if (!isOutside) segments = segments[Mount.Length..];
        var isBare = Mount.Length > 0 && segments.Count == 0;
        if (Mount.Length > 0 && segments is [""]) segments = [];
        var query = new List<(string, string?)>();
        foreach (var pair in question < 0 ? [] : target[(question + 1)..].Split('&', StringSplitOptions.RemoveEmptyEntries))
        {
            var equals = pair.IndexOf('=');
            if (Decoded((equals < 0 ? pair : pair[..equals]).Replace('+', ' ')) is { } name) query.Add((name, equals < 0 ? "" : Decoded(pair[(equals + 1)..].Replace('+', ' '))));
        }

        return (segments, query, isOutside, isBare);
    }

    /// <summary>Strictly: whole pairs of hexadecimal digits, bytes that are UTF-8, no NUL. Null where that does not hold.</summary>
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

            if (i + 2 >= part.Length || !char.IsAsciiHexDigit(part[i + 1]) || !char.IsAsciiHexDigit(part[i + 2])) return null;
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
        if (i == depth) return at.Places;
        var segment = segments[i];
        if (segment is not null && at.Literals.TryGetValue(segment, out var literal) && Match(literal, segments, depth, i + 1) is { Count: > 0 } found) return found;
        foreach (var (before, behind, next) in at.Holes)
        {
            var fits = segment is null ? before.Length + behind.Length == 0
                : segment.Length >= before.Length + behind.Length && segment.StartsWith(before, StringComparison.Ordinal) && segment.EndsWith(behind, StringComparison.Ordinal);
            if (fits && Match(next, segments, depth, i + 1) is { Count: > 0 } below) return below;
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
                        if (!at.Literals.TryGetValue(piece.Before, out var literal)) at.Literals[piece.Before] = literal = new Level();
                        at = literal;
                        continue;
                    }

                    var known = at.Holes.FindIndex(hole => hole.Before == piece.Before && hole.Behind == piece.Behind);
                    if (known < 0)
                    {
                        known = at.Holes.FindIndex(hole => (hole.Before.Length, hole.Behind.Length).CompareTo((piece.Before.Length, piece.Behind.Length)) < 0);
                        if (known < 0) known = at.Holes.Count;
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
        /// <summary>The query parameters without which the page is not meant.</summary>
        public string[] Needs { get; } = [.. Plan.Parameters.Where(parameter => !parameter.IsOptional && !Path.Any(piece => piece.Parameter == parameter.Name)).Select(parameter => parameter.Name)];
    }
}

/// <summary>The members of a JSON object, each read as the type that this file knows it to have.</summary>
internal sealed class Members(JsonElement json)
{
    public JsonElement Json => json;

    public bool Has(string name) => json.ValueKind == JsonValueKind.Object && json.TryGetProperty(name, out var value) && value.ValueKind != JsonValueKind.Null;

    public Members Of(string name) => json.ValueKind == JsonValueKind.Object && json.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.Object ? new Members(value) : throw new StrangeException($"The answer lacks “{name}”: the app file is of another version.");

    public string? TextOr(string name) => Has(name) ? json.GetProperty(name) is { ValueKind: JsonValueKind.String } text ? text.GetString() : json.GetProperty(name).GetRawText() : null;

    public T? Or<T>(string name, Func<JsonElement, T> read)
        where T : struct => Has(name) ? Must(name, read) : null;

    public T? OrNull<T>(string name, Func<JsonElement, T> read)
        where T : class => Has(name) ? Must(name, read) : null;

    /// <summary>The value of a member that must be there.</summary>
    public T Must<T>(string name, Func<JsonElement, T> read)
    {
        if (json.ValueKind != JsonValueKind.Object || !json.TryGetProperty(name, out var value)) throw new StrangeException($"The answer lacks “{name}”: the app file is of another version.");
        try
        {
            return read(value);
        }
        catch (Exception wrong) when (wrong is InvalidOperationException or FormatException or OverflowException)
        {
            throw new StrangeException($"“{name}” holds {(value.GetRawText() is { Length: > 60 } cut ? cut[..60] + "…" : value.GetRawText())}, which is of another type than this file knows.");
        }
    }

    /// <summary>Sees to it that a member is there, whatever it holds.</summary>
    public Members With(params string[] names)
    {
        foreach (var name in names) Must(name, value => value);
        return this;
    }

    public static long Whole(JsonElement value) => value.GetInt64();

    public static decimal Number(JsonElement value) => decimal.Parse(value.ValueKind == JsonValueKind.String ? value.GetString()! : value.GetRawText(), NumberStyles.Float, CultureInfo.InvariantCulture);

    public static double Real(JsonElement value) => value.GetDouble();

    public static bool Truth(JsonElement value) => value.GetBoolean();

    public static string Text(JsonElement value) => value.GetString() ?? throw new FormatException();

    public static Guid Uuid(JsonElement value) => value.GetGuid();

    public static DateOnly Day(JsonElement value) => DateOnly.ParseExact(Text(value), "yyyy-MM-dd", CultureInfo.InvariantCulture);

    public static DateTime Moment(JsonElement value) => DateTime.Parse(Text(value), CultureInfo.InvariantCulture);

    public static byte[] Bytes(JsonElement value) => value.GetBytesFromBase64();

    public static JsonElement Any(JsonElement value) => value.Clone();

    public static Reference Reference(JsonElement value) => new Members(value) is var members ? new Reference(members.Id(), members.TextOr("address"), members.TextOr("label")) : null!;

    public static Picture Picture(JsonElement value) => new Members(value) is var members ? new Picture(members.Must("name", Text), members.TextOr("address")) : null!;

    public Id? Id() => !Has("id") ? null : json.GetProperty("id") is { ValueKind: JsonValueKind.Object } several
        ? new Id(several.EnumerateObject().ToDictionary(part => part.Name, part => part.Value.GetString() ?? "")) : new Id(new Dictionary<string, string> { ["id"] = TextOr("id")! });

    public IReadOnlyList<Link> Links(string name) => !Has(name) ? [] : [.. json.GetProperty(name).EnumerateArray().Select(link => new Members(link)).Select(link => new Link(link.TextOr("page") ?? "", link.TextOr("text") ?? "", link.TextOr("address") ?? ""))];
}

/// <summary>Asks the service and understands what it answers.</summary>
internal static class Calls
{
    private sealed record Answer(int Status, Members? Body, string Address, string? Version, TimeSpan After, string? Strange);

    public static async Task<Loaded<T>> LoadAsync<T>(Service service, string page, string address, string good, Func<Members, T> read, CancellationToken cancellation)
    {
        if (await AskAsync(service, HttpMethod.Get, address, null, null, cancellation) is not { } answer) return new Loaded<T>.Not(Offline);
        if (answer.Strange is not null || answer.Body?.TextOr("outcome") != good) return new Loaded<T>.Not(FailureOf(answer, page));
        try
        {
            return answer.Body.TextOr("page") == page ? new Loaded<T>.Found(read(answer.Body), answer.Address, answer.Version)
                : throw new StrangeException($"“{page}” was asked for, and “{answer.Body.TextOr("page")}” answered.");
        }
        catch (StrangeException strange)
        {
            return new Loaded<T>.Not(new Failure.Strange(strange.Message));
        }
    }

    public static async Task<Saved<T>> SendAsync<T>(
        Service service, string page, HttpMethod method, string address, IReadOnlyDictionary<string, object?>? fields, string? version, Func<Members, T> read, CancellationToken cancellation)
    {
        if (await AskAsync(service, method, address, fields, version, cancellation) is not { } answer) return new Saved<T>.Not(Offline);
        var (body, outcome) = (answer.Body, answer.Body?.TextOr("outcome"));
        try
        {
            if (answer.Strange is null && (answer.Status == 204 || outcome == "saved")) return new Saved<T>.Done(read(body ?? new Members(default)), answer.Version);
        }
        catch (StrangeException strange)
        {
            return new Saved<T>.Not(new Failure.Strange(strange.Message));
        }

        var detail = body?.TextOr("detail") ?? "";
        IReadOnlyList<Fault> faults = body?.Has("errors") != true ? [] : [.. body.Json.GetProperty("errors").EnumerateArray().Select(error => new Members(error)).Select(error => new Fault(FieldOf(error.TextOr("pointer") ?? ""), error.TextOr("detail") ?? ""))];
        return outcome switch
        {
            "invalid" => new Saved<T>.Invalid(detail, faults),
            "conflict" => new Saved<T>.Conflict(detail),
            "refused" or "untrusted" or "unreadable" => new Saved<T>.Refused(detail, faults),
            _ => new Saved<T>.Not(FailureOf(answer, page)),
        };
    }

    private static Failure Offline => new Failure.Offline("Nothing answered.");

    private static string? FieldOf(string pointer) => pointer.StartsWith("#/fields/", StringComparison.Ordinal) ? Uri.UnescapeDataString(pointer[9..]).Replace("~1", "/").Replace("~0", "~") : null;

    private static async Task<Answer?> AskAsync(Service service, HttpMethod method, string address, IReadOnlyDictionary<string, object?>? fields, string? version, CancellationToken cancellation)
    {
        using var request = new HttpRequestMessage(method, new Uri(service.Base.GetLeftPart(UriPartial.Authority) + address, new UriCreationOptions { DangerousDisablePathAndQueryCanonicalization = true }));
        request.Headers.TryAddWithoutValidation("Accept", "application/json");
        if (version is not null) request.Headers.TryAddWithoutValidation("If-Match", version);
        if (fields is not null) request.Content = new StringContent(JsonSerializer.Serialize(new { fields }), Encoding.UTF8, method == HttpMethod.Patch ? "application/merge-patch+json" : "application/json");
        try
        {
            using var response = await service.Http.SendAsync(request, cancellation);
            var text = await response.Content.ReadAsStringAsync(cancellation);
            var type = response.Content.Headers.ContentType?.MediaType ?? "something";
            var after = response.Headers.RetryAfter?.Delta ?? TimeSpan.FromSeconds(5);
            var at = response.RequestMessage?.RequestUri?.PathAndQuery ?? address;
            var tag = response.Headers.ETag?.ToString();
            if (text.Length == 0) return new Answer((int)response.StatusCode, null, at, tag, after, null);
            if (!type.EndsWith("/json", StringComparison.Ordinal) && !type.EndsWith("+json", StringComparison.Ordinal)) return new Answer((int)response.StatusCode, null, at, tag, after, $"{(int)response.StatusCode} with {type} instead of JSON");
            return new Answer((int)response.StatusCode, new Members(JsonDocument.Parse(text).RootElement), at, tag, after, null);
        }
        catch (JsonException)
        {
            return new Answer(200, null, address, null, TimeSpan.Zero, "JSON that ends too early");
        }
        catch (Exception lost) when (lost is HttpRequestException or IOException || (lost is OperationCanceledException && !cancellation.IsCancellationRequested))
        {
            return null;
        }
    }

    private static Failure FailureOf(Answer answer, string page)
    {
        var detail = answer.Body?.TextOr("detail") ?? $"The answer was {answer.Status}.";
        return answer.Body?.TextOr("outcome") switch
        {
            "missing" => new Failure.Missing(answer.Body.TextOr("parameter"), detail),
            "malformed" => new Failure.Malformed(answer.Body.TextOr("parameter"), detail),
            "unknown" => new Failure.Unknown(detail),
            "gone" => new Failure.Gone(detail),
            "ambiguous" => new Failure.Ambiguous(detail),
            "no-page" => new Failure.NoPage(detail),
            "not-allowed" => new Failure.NotAllowed(detail),
            "failed" => new Failure.Failed(detail),
            "unavailable" => new Failure.Unavailable(detail, answer.After),
            var other => new Failure.Strange(answer.Strange ?? $"“{page}” was asked for, and the answer was {answer.Status} {other ?? "without an outcome"}."),
        };
    }

    public static Listed<TFields> Listed<TFields>(Members body, Func<Members, TFields> fields) => new(
        body.Must("title", Members.Text), new Total(body.Of("total").Must("count", Members.Whole), body.Of("total").Must("exact", Members.Truth)), body.Or("from", Members.Whole), body.TextOr("notice"),
        [.. body.Must("records", records => records.EnumerateArray().ToList()).Select(record => new Members(record)).Select(record => new Entry<TFields>(record.Id(), record.TextOr("address"), fields(record.Of("fields")), record.Links("links")))],
        body.TextOr("first"), body.TextOr("prev"), body.TextOr("next"), body.TextOr("last"), body.TextOr("add"), body.Links("trail"));

    public static Shown<TFields> Shown<TFields>(Members body, Func<Members, TFields> fields) => new(
        body.Must("title", Members.Text), body.Id(), body.TextOr("address"), fields(body.Of("fields")), body.Links("links"), body.TextOr("list"), body.TextOr("prev"), body.TextOr("next"), body.Links("trail"), body.Json);

    public static Held<TFields> Held<TFields>(Members body, Func<Members, TFields> fields) => new(body.Id(), body.TextOr("address"), fields(body.Of("fields")));

    public static Made Made(Members body) => new(body.TextOr("id"), body.Must("address", Members.Text));

    public static Written Written(Members body) => new(body.Must("title", Members.Text), body.Must("text", Members.Text));

    /// <summary>A value as JSON takes it.</summary>
    public static object? Sent(object? value) => value switch
    {
        decimal number => number.ToString(CultureInfo.InvariantCulture),
        DateOnly day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
        DateTime moment => moment.ToString("yyyy-MM-dd'T'HH:mm:ss.FFFFFFF", CultureInfo.InvariantCulture),
        _ => value,
    };
}
