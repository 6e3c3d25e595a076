/// <summary>The members of a JSON object, each read as the type that this file knows it to have.</summary>
internal sealed class Members(JsonElement json)
{
    public JsonElement Json => json;

    public bool Has(string name) =>
        json.ValueKind == JsonValueKind.Object
        && json.TryGetProperty(name, out var value)
        && value.ValueKind != JsonValueKind.Null;

    public Members Of(string name) =>
        json.ValueKind == JsonValueKind.Object
        && json.TryGetProperty(name, out var value)
        && value.ValueKind == JsonValueKind.Object
            ? new Members(value)
            : throw new StrangeException($"The answer lacks “{name}”: the app file is of another version.");

    public string? TextOr(string name) =>
        Has(name)
            ? json.GetProperty(name) is { ValueKind: JsonValueKind.String } text
                ? text.GetString()
                : json.GetProperty(name).GetRawText()
            : null;

    public T? Or<T>(string name, Func<JsonElement, T> read)
        where T : struct => Has(name) ? Must(name, read) : null;

    public T? OrNull<T>(string name, Func<JsonElement, T> read)
        where T : class => Has(name) ? Must(name, read) : null;

    /// <summary>The value of a member that must be there.</summary>
    public T Must<T>(string name, Func<JsonElement, T> read)
    {
        if (json.ValueKind != JsonValueKind.Object || !json.TryGetProperty(name, out var value))
            throw new StrangeException($"The answer lacks “{name}”: the app file is of another version.");
        try
        {
            return read(value);
        }
        catch (Exception wrong) when (wrong is InvalidOperationException or FormatException or OverflowException)
        {
            throw new StrangeException(
                $"“{name}” holds {(value.GetRawText() is { Length: > 60 } cut ? cut[..60] + "…" : value.GetRawText())}, "
                    + "which is of another type than this file knows."
            );
        }
    }

    /// <summary>Sees to it that a member is there, whatever it holds.</summary>
    public Members With(params string[] names)
    {
        foreach (var name in names)
            Must(name, value => value);
        return this;
    }

    public static long Whole(JsonElement value) => value.GetInt64();

    public static decimal Number(JsonElement value) =>
        decimal.Parse(
            value.ValueKind == JsonValueKind.String ? value.GetString()! : value.GetRawText(),
            NumberStyles.Float,
            CultureInfo.InvariantCulture
        );

    public static double Real(JsonElement value) => value.GetDouble();

    public static bool Boolean(JsonElement value) => value.GetBoolean();

    public static string Text(JsonElement value) => value.GetString() ?? throw new FormatException();

    public static Guid Uuid(JsonElement value) => value.GetGuid();

    public static DateOnly Day(JsonElement value) => DateOnly.ParseExact(Text(value), "yyyy-MM-dd", CultureInfo.InvariantCulture);

    public static DateTimeOffset Moment(JsonElement value) =>
        DateTimeOffset.Parse(Text(value), CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal);

    public static byte[] Bytes(JsonElement value) => value.GetBytesFromBase64();

    public static JsonElement Any(JsonElement value) => value.Clone();

    public static Reference Reference(JsonElement value) =>
        new Members(value) is var members
            ? new Reference(members.Id(), members.TextOr("address"), members.TextOr("label"))
            : null!;

    public static StoredFile StoredFile(JsonElement value) =>
        new Members(value) is var members ? new StoredFile(members.Must("name", Text), members.TextOr("address")) : null!;

    public static Picture Picture(JsonElement value) =>
        new Members(value) is var members ? new Picture(members.Must("name", Text), members.TextOr("address")) : null!;

    public Id? Id() =>
        !Has("id") ? null
        : json.GetProperty("id") is { ValueKind: JsonValueKind.Object } several
            ? new Id(several.EnumerateObject().ToDictionary(part => part.Name, part => part.Value.GetString() ?? ""))
        : new Id(new Dictionary<string, string> { ["id"] = TextOr("id")! });

    public IReadOnlyList<Link> Links(string name) =>
        !Has(name)
            ? []
            :
            [
                .. json.GetProperty(name)
                    .EnumerateArray()
                    .Select(link => new Members(link))
                    .Select(link => new Link(link.TextOr("page") ?? "", link.TextOr("text") ?? "", link.TextOr("address") ?? "")),
            ];
}

/// <summary>Asks the service and understands what it answers.</summary>
internal static class Calls
{
    private sealed record Answer(int Status, Members? Body, string Address, string? Version, TimeSpan After, string? Strange);

    public static async Task<Loaded<T>> LoadAsync<T>(
        Service service,
        string page,
        string address,
        string good,
        Func<Members, T> read,
        CancellationToken cancellation
    )
    {
        if (await AskAsync(service, HttpMethod.Get, address, null, null, cancellation) is not { } answer)
            return new Loaded<T>.Not(Offline);
        if (answer.Strange is not null || answer.Body?.TextOr("outcome") != good)
            return new Loaded<T>.Not(FailureOf(answer, page));
        try
        {
            return answer.Body.TextOr("page") == page
                ? new Loaded<T>.Found(read(answer.Body), answer.Address, answer.Version)
                : throw new StrangeException($"“{page}” was asked for, and “{answer.Body.TextOr("page")}” answered.");
        }
        catch (StrangeException strange)
        {
            return new Loaded<T>.Not(new Failure.Strange(strange.Message));
        }
    }

    public static async Task<Saved<T>> SendAsync<T>(
        Service service,
        string page,
        HttpMethod method,
        string address,
        IReadOnlyDictionary<string, object?>? fields,
        string? version,
        Func<Members, T> read,
        CancellationToken cancellation
    )
    {
        if (await AskAsync(service, method, address, fields, version, cancellation) is not { } answer)
            return new Saved<T>.Not(Offline);
        var (body, outcome) = (answer.Body, answer.Body?.TextOr("outcome"));
        try
        {
            if (answer.Strange is null && (answer.Status == 204 || outcome == "saved"))
                return new Saved<T>.Done(read(body ?? new Members(default)), answer.Version);
        }
        catch (StrangeException strange)
        {
            return new Saved<T>.Not(new Failure.Strange(strange.Message));
        }

        var detail = body?.TextOr("detail") ?? "";
        IReadOnlyList<Fault> faults =
            body?.Has("errors") != true
                ? []
                :
                [
                    .. body
                        .Json.GetProperty("errors")
                        .EnumerateArray()
                        .Select(error => new Members(error))
                        .Select(error => new Fault(FieldOf(error.TextOr("pointer") ?? ""), error.TextOr("detail") ?? "")),
                ];
        return outcome switch
        {
            //{refusal arms}
            _ => new Saved<T>.Not(FailureOf(answer, page)),
        };
    }

    private static Failure Offline => new Failure.Offline("Nothing answered.");

    private static string? FieldOf(string pointer) =>
        pointer.StartsWith("#/fields/", StringComparison.Ordinal)
            ? Uri.UnescapeDataString(pointer[9..]).Replace("~1", "/").Replace("~0", "~")
            : null;

    private static async Task<Answer?> AskAsync(
        Service service,
        HttpMethod method,
        string address,
        IReadOnlyDictionary<string, object?>? fields,
        string? version,
        CancellationToken cancellation
    )
    {
        using var request = new HttpRequestMessage(
            method,
            new Uri(
                service.Base.GetLeftPart(UriPartial.Authority) + address,
                new UriCreationOptions { DangerousDisablePathAndQueryCanonicalization = true }
            )
        );
        request.Headers.TryAddWithoutValidation("Accept", "application/json");
        if (version is not null)
            request.Headers.TryAddWithoutValidation("If-Match", version);
        if (fields is not null)
            request.Content = new StringContent(
                Json(fields),
                Encoding.UTF8,
                method == HttpMethod.Patch ? "application/merge-patch+json" : "application/json"
            );
        try
        {
            using var response = await service.Http.SendAsync(request, cancellation);
            var text = await response.Content.ReadAsStringAsync(cancellation);
            var type = response.Content.Headers.ContentType?.MediaType ?? "something";
            var after = response.Headers.RetryAfter?.Delta ?? TimeSpan.FromSeconds(5);
            var at = response.RequestMessage?.RequestUri?.PathAndQuery ?? address;
            var tag = response.Headers.ETag?.ToString();
            if (text.Length == 0)
                return new Answer((int)response.StatusCode, null, at, tag, after, null);
            if (!type.EndsWith("/json", StringComparison.Ordinal) && !type.EndsWith("+json", StringComparison.Ordinal))
                return new Answer(
                    (int)response.StatusCode,
                    null,
                    at,
                    tag,
                    after,
                    $"{(int)response.StatusCode} with {type} instead of JSON"
                );
            return new Answer((int)response.StatusCode, new Members(JsonDocument.Parse(text).RootElement), at, tag, after, null);
        }
        catch (JsonException)
        {
            return new Answer(200, null, address, null, TimeSpan.Zero, "JSON that ends too early");
        }
        catch (Exception lost)
            when (lost is HttpRequestException or IOException
                || (lost is OperationCanceledException && !cancellation.IsCancellationRequested)
            )
        {
            return null;
        }
    }

    private static Failure FailureOf(Answer answer, string page)
    {
        var detail = answer.Body?.TextOr("detail") ?? $"The answer was {answer.Status}.";
        return answer.Body?.TextOr("outcome") switch
        {
            //{failure arms}
            var other => new Failure.Strange(
                answer.Strange ?? $"“{page}” was asked for, and the answer was {answer.Status} {other ?? "without an outcome"}."
            ),
        };
    }

    public static Listed<TFields> Listed<TFields>(Members body, Func<Members, TFields> fields) =>
        new(
            body.Must("title", Members.Text),
            TotalOf(body),
            body.Or("from", Members.Whole),
            body.TextOr("notice"),
            EntriesOf(body, fields),
            body.TextOr("first"),
            body.TextOr("prev"),
            body.TextOr("next"),
            body.TextOr("last"),
            body.TextOr("add"),
            body.Links("trail")
        );

    public static Shown<TFields> Shown<TFields>(Members body, Func<Members, TFields> fields) =>
        new(
            body.Must("title", Members.Text),
            body.Id(),
            body.TextOr("address"),
            fields(body.Of("fields")),
            body.Links("links"),
            body.TextOr("list"),
            body.TextOr("prev"),
            body.TextOr("next"),
            body.Links("trail"),
            body.Json
        )
        {
            PreviousText = body.TextOr("prev_text"),
            NextText = body.TextOr("next_text"),
        };

    public static Held<TFields> Held<TFields>(Members body, Func<Members, TFields> fields) =>
        new(body.Id(), body.TextOr("address"), fields(body.Of("fields")));

    public static Made Made(Members body) => new(body.TextOr("id"), body.Must("address", Members.Text));

    public static Written Written(Members body) => new(body.Must("title", Members.Text), body.Must("text", Members.Text));

    /// <summary>A value as JSON takes it.</summary>
    public static object? Sent(object? value) =>
        value switch
        {
            decimal number => number.ToString(CultureInfo.InvariantCulture),
            DateOnly day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            DateTimeOffset moment => moment.UtcDateTime.ToString(
                "yyyy-MM-dd'T'HH:mm:ss.FFFFFFF'Z'",
                CultureInfo.InvariantCulture
            ),
            _ => value,
        };

    /// <summary>What is sent, written value by value: nothing is found out about types while the program runs.</summary>
    private static string Json(IReadOnlyDictionary<string, object?> fields)
    {
        using var bytes = new MemoryStream();
        using (var json = new Utf8JsonWriter(bytes))
        {
            json.WriteStartObject();
            json.WriteStartObject("fields");
            foreach (var (name, value) in fields)
            {
                json.WritePropertyName(name);
                switch (value)
                {
                    case null:
                        json.WriteNullValue();
                        break;
                    case long whole:
                        json.WriteNumberValue(whole);
                        break;
                    case double real:
                        json.WriteNumberValue(real);
                        break;
                    case bool truth:
                        json.WriteBooleanValue(truth);
                        break;
                    case Guid uuid:
                        json.WriteStringValue(uuid);
                        break;
                    case byte[] some:
                        json.WriteBase64StringValue(some);
                        break;
                    case JsonElement any:
                        any.WriteTo(json);
                        break;
                    default:
                        json.WriteStringValue((string)value);
                        break;
                }
            }

            json.WriteEndObject();
            json.WriteEndObject();
        }

        return Encoding.UTF8.GetString(bytes.ToArray());
    }

    /// <summary>Related records, by their place on the page.</summary>
    public static Related<TFields> Related<TFields>(JsonElement shown, int place, Func<Members, TFields> fields)
    {
        var blocks = new Members(shown).Must("related", related => related.EnumerateArray().ToList());
        if (place >= blocks.Count)
            throw new StrangeException("The answer lacks related records: the app file is of another version.");
        var block = new Members(blocks[place]);
        if (!block.Has("records"))
            return new Related<TFields>(block.Must("title", Members.Text), null, [], null);
        return new Related<TFields>(
            block.Must("title", Members.Text),
            TotalOf(block),
            EntriesOf(block, fields),
            block.TextOr("all")
        );
    }

    private static Total TotalOf(Members body) =>
        new(body.Of("total").Must("count", Members.Whole), body.Of("total").Must("exact", Members.Boolean));

    private static List<Entry<TFields>> EntriesOf<TFields>(Members body, Func<Members, TFields> fields) =>
        [
            .. body.Must("records", records => records.EnumerateArray().ToList())
                .Select(record => new Members(record))
                .Select(record => new Entry<TFields>(
                    record.Id(),
                    record.TextOr("address"),
                    fields(record.Of("fields")),
                    record.Links("links")
                )),
        ];
}
