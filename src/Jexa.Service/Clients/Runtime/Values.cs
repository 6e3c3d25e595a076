// ---- What follows is the same in every file: values, addresses, loading, saving. ----

/// <summary>Where an app is served.</summary>
/// <param name="Http">Used for every request; its own base address is not.</param>
/// <param name="Base">The origin of the pages, such as http://127.0.0.1:7440.</param>
public sealed record Service(HttpClient Http, Uri Base);

/// <summary>No address of the page can carry these values.</summary>
public sealed class AddressException(string message) : ArgumentException(message);

/// <summary>
/// What an address says, as far as it alone tells: <c>SomePage.At</c> with its parameters, or why it means no page.
/// </summary>
public abstract record Reading
{
    /// <summary>Jexa itself would write it so.</summary>
    public bool IsCanonical { get; init; }

    /// <summary>What a list is asked for besides its parameters; nothing on other pages.</summary>
    public Wanted Wanted { get; init; } = new();

    /// <summary>As Jexa would write it; empty if it means no page.</summary>
    public string Address { get; init; } = "";

    public sealed record Missing(string Page, string Parameter) : Reading;

    /// <param name="Page">Null if it is no address at all.</param>
    public sealed record Malformed(string? Page, string? Parameter) : Reading;

    public sealed record NoPage : Reading;
}

/// <summary>An ID as it stands in addresses: one text a parameter.</summary>
public sealed record Id(IReadOnlyDictionary<string, string> Parts)
{
    /// <summary>The text of an ID of one parameter.</summary>
    public override string ToString() => string.Join("/", Parts.Values);
}

/// <summary>Another record, as a field shows it; its members are null if it does not exist or may not be seen.</summary>
public sealed record Reference(Id? Id, string? Address, string? Label);

public sealed record Picture(string Name, string? Address);

/// <summary>A recording or another file.</summary>
public sealed record StoredFile(string Name, string? Address);

public sealed record Link(string Page, string Text, string Address);

/// <param name="IsExact">False if counting stopped: there are more.</param>
public sealed record Total(long Count, bool IsExact);

public sealed record Entry<TFields>(Id? Id, string? Address, TFields Fields, IReadOnlyList<Link> Links);

public sealed record Listed<TFields>(
    string Title,
    Total Total,
    long? From,
    string? Notice,
    IReadOnlyList<Entry<TFields>> Records,
    string? First,
    string? Previous,
    string? Next,
    string? Last,
    string? Add,
    IReadOnlyList<Link> Trail
);

/// <param name="Json">The whole answer, with the related records.</param>
public sealed record Shown<TFields>(
    string Title,
    Id? Id,
    string? Address,
    TFields Fields,
    IReadOnlyList<Link> Links,
    string? List,
    string? Previous,
    string? Next,
    IReadOnlyList<Link> Trail,
    JsonElement Json
)
{
    /// <summary>What the record before is called, so that it can be told apart from this one.</summary>
    public string? PreviousText { get; init; }

    /// <summary>What the record behind is called.</summary>
    public string? NextText { get; init; }
}

/// <summary>Records that stand with another one. <c>Total</c> is null if they could not be read.</summary>
/// <param name="All">The list of all of them; null if there is none.</param>
public sealed record Related<TFields>(string Title, Total? Total, IReadOnlyList<Entry<TFields>> Records, string? All);

/// <summary>A record's own fields, by which it is changed.</summary>
public sealed record Held<TFields>(Id? Id, string? Address, TFields Fields);

/// <param name="Text">Markdown.</param>
public sealed record Written(string Title, string Text);

/// <summary>A record that was made.</summary>
public sealed record Made(string? Id, string Address);

public sealed record Fault(string? Field, string Detail);

/// <summary>
/// What every list can be asked besides its own parameters. An order is a field's name, with a minus before it to turn it round.
/// </summary>
public sealed record Wanted(
    string? Find = null,
    string? Order = null,
    int? Size = null,
    string? After = null,
    string? Before = null
);

/// <summary>How a visit or a change ended that shows or makes nothing. <c>Detail</c> is a sentence for people.</summary>
public abstract record Failure(string Detail)
{
    //{failure records}

    /// <summary>Nothing answered.</summary>
    public sealed record Offline(string Detail) : Failure(Detail);

    /// <summary>
    /// What answered is not this app as this file knows it: another program, or another version of the app file.
    /// </summary>
    public sealed record Strange(string Detail) : Failure(Detail);
}

/// <summary>What a page shows, or how else the visit ended.</summary>
public abstract record Loaded<T>
{
    private Loaded() { }

    /// <param name="Address">The canonical one.</param>
    /// <param name="Version">What a change must name.</param>
    public sealed record Found(T Value, string Address, string? Version) : Loaded<T>;

    public sealed record Not(Failure Failure) : Loaded<T>;

    /// <summary>One of the answers, whichever it is: none can be forgotten.</summary>
    public TResult Match<TResult>(
        Func<Found, TResult> found,
        Func<Failure.Missing, TResult> missing,
        Func<Failure.Malformed, TResult> malformed,
        Func<Failure.Unknown, TResult> unknown,
        Func<Failure.Gone, TResult> gone,
        Func<Failure.Unavailable, TResult> unavailable,
        Func<Failure.Offline, TResult> offline,
        Func<Failure, TResult> otherwise
    ) =>
        this switch
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

/// <summary>
/// How a change ended. After anything but <see cref="Done"/> nothing was changed; after <see cref="Failure.Offline"/> nobody
/// knows.
/// </summary>
public abstract record Saved<T>
{
    private Saved() { }

    public sealed record Done(T Value, string? Version) : Saved<T>;

    //{refusal records}

    /// <summary>The source, or the service, said no.</summary>
    public sealed record Refused(string Detail, IReadOnlyList<Fault> Faults) : Saved<T>;

    public sealed record Not(Failure Failure) : Saved<T>;

    /// <summary>One of the answers, whichever it is: none can be forgotten.</summary>
    public TResult Match<TResult>(
        Func<Done, TResult> done,
        Func<Invalid, TResult> invalid,
        Func<Conflict, TResult> conflict,
        Func<Refused, TResult> refused,
        Func<Failure, TResult> not
    ) =>
        this switch
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
