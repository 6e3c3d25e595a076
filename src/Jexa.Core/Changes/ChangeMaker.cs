using System.Text;
using System.Text.Json;
using Jexa.Core.Edits;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>
/// Makes one change so that log and data agree, whatever happens. First the change is logged as intended, with its result. Then
/// the source makes it and notes its token in the same transaction. Then the log confirms it. If a process ends in between, the
/// source's note decides.
/// </summary>
internal sealed class ChangeMaker(QueryRunner queries, IChangeLog log)
{
    /// <inheritdoc cref="MakeAsync(IWriteSession, WantedChange, VisitTrace, RowLoans, CancellationToken)"/>
    public ValueTask<MadeChange?> MakeAsync(IWriteSession session, WantedChange wanted, Visit visit) =>
        MakeAsync(session, wanted, visit.Trace, visit.Rows, visit.Cancellation);

    /// <summary>The change; null if another one with its token was made or is being made.</summary>
    /// <exception cref="RefusedException">A rule of the source forbids it. Nothing is changed.</exception>
    /// <exception cref="SourceException">The source cannot do it now. Nothing is changed.</exception>
    public async ValueTask<MadeChange?> MakeAsync(
        IWriteSession session,
        WantedChange wanted,
        VisitTrace trace,
        RowLoans loans,
        CancellationToken cancellation
    )
    {
        var plan = wanted.Plan;
        var before =
            wanted.Before is null || !TouchesKeys(wanted)
                ? null
                : await RereadAsync(session, plan, KeyOf(plan, wanted.Before), trace, loans, cancellation);
        var started = queries.Clock.GetTimestamp();
        var result = await session.WriteAsync(wanted.Write, cancellation);
        trace.AddWrite(session.Shown(wanted.Write), result.Rows, started);
        if (result.Rows != 1)
            throw new SourceException(SourceTrouble.Failed, $"A change of one row would have changed {result.Rows}.");

        var key = wanted.Kind == ChangeKind.Deleted ? KeyOf(plan, wanted.Before!) : KeyAfter(wanted, result);
        var after = wanted.Kind == ChangeKind.Deleted ? null : await RereadAsync(session, plan, key, trace, loans, cancellation);
        var row = after ?? before!.Value;
        var visible = after is { } seen && (plan.Flag < 0 || seen[plan.Flag].Integer == 1);
        var made = new MadeChange(
            Location(plan, wanted.Kind, row, visible),
            Text(plan, row),
            Id(plan, row),
            visible,
            plan.Scopes.ToDictionary(scope => scope.Name, scope => KeyHistory.KeyOf(scope, row))
        );
        var values = after is { } now ? plan.Columns.Select(column => StoredValue.Of(now, column.Ordinal)).ToArray() : null;
        var intent = new ChangeIntent(
            wanted.Token,
            wanted.Digest,
            wanted.Page,
            plan.Record.SourceName,
            plan.Record.Name,
            KeyJson(plan, key),
            made.Id ?? "",
            wanted.Kind,
            Fields(plan, wanted.Before, values),
            made.Location,
            session.KeepsNotes,
            wanted.Before is not null && before is null ? [] : Events(plan, before, after),
            wanted.Undoes
        );
        if (!await IntendAsync(session, intent))
            return null;
        await CommitAsync(session, intent, trace);
        Confirm(wanted.Token);
        return made;
    }

    /// <summary>Commits a change that is in the log. From here on the change is finished even if the visitor leaves.</summary>
    private async ValueTask CommitAsync(IWriteSession session, ChangeIntent intent, VisitTrace trace)
    {
        var isCommitting = false;
        try
        {
            if (session.KeepsNotes && !await session.NoteAsync(intent.Token, intent.Key, CancellationToken.None))
                throw new SourceException(SourceTrouble.TooSlow, "Another process gave this change up.");
            var started = queries.Clock.GetTimestamp();
            isCommitting = true;
            await session.CommitAsync();
            trace.AddWrite("COMMIT;", 0, started);
        }
        catch (Exception end)
        {
            await session.DisposeAsync();

            // Nobody here knows how a broken commit ended. The note tells it when the lease is over.
            if (!isCommitting || end is RefusedException)
                Forget(intent.Token);
            throw;
        }
    }

    /// <summary>Whether the change can give the record another address, or none.</summary>
    private static bool TouchesKeys(WantedChange wanted) =>
        wanted.Write is not RecordWrite.Update update
        || update.Values.Any(value => wanted.Plan.ScopeColumns.Contains(value.Column));

    /// <summary>
    /// Logs the intent. If the token is in the log already: the other change was made or is being confirmed, and this one is not
    /// made. Or a process that ended left it behind; then the source's note decides, while this transaction is open.
    /// </summary>
    private async ValueTask<bool> IntendAsync(IWriteSession session, ChangeIntent intent)
    {
        if (log.TryIntend(intent))
            return true;
        if (log.Find(intent.Token) is not { State: ChangeState.Intended } || !session.KeepsNotes)
            return false;
        var (noted, _) = await session.FindNoteAsync(intent.Token, CancellationToken.None);
        if (noted)
            return false;
        log.Drop(intent.Token);
        return log.TryIntend(intent);
    }

    private void Confirm(string token)
    {
        try
        {
            log.Confirm(token);
        }
        catch (SourceException)
        {
            // The data has it, and its note says so. The log learns of it later.
        }
    }

    private void Forget(string token)
    {
        try
        {
            log.Drop(token);
        }
        catch (SourceException)
        {
            // The source has no note of it. It is removed from the log later.
        }
    }

    private async ValueTask<Row?> RereadAsync(
        IWriteSession session,
        ChangePlan plan,
        TypedValue[] key,
        VisitTrace trace,
        RowLoans loans,
        CancellationToken cancellation
    )
    {
        var rows = loans.Lend(plan.Reread.Width);
        var started = queries.Clock.GetTimestamp();
        await session.RunAsync(plan.Reread, key, rows, cancellation);
        trace.Add(plan.Reread, key, rows, rows.Count, started);
        return rows.Count == 1
            ? rows[0]
            : throw new SourceException(SourceTrouble.Failed, $"{rows.Count} rows have the key of the one that is changed.");
    }

    /// <summary>The record's key in its table, from values of the plan's columns.</summary>
    public static List<ColumnValue> KeyColumns(ChangePlan plan, IReadOnlyList<TypedValue> values) =>
        [.. plan.Key.Zip(KeyOf(plan, values), (column, value) => new ColumnValue(column.Field.Column.Name, value))];

    public static TypedValue[] KeyOf(ChangePlan plan, IReadOnlyList<TypedValue> values) =>
        [.. plan.Key.Select(column => values[plan.Columns.ToList().IndexOf(column)])];

    private static TypedValue[] KeyAfter(WantedChange wanted, WriteResult result)
    {
        if (wanted.Write is RecordWrite.Insert)
            return [.. result.Key];
        var written = ((RecordWrite.Update)wanted.Write).Values;
        var before = KeyOf(wanted.Plan, wanted.Before!);
        return
        [
            .. wanted.Plan.Key.Select(
                (column, i) =>
                    written.Where(value => value.Column == column.Field.Column.Name).Select(value => value.Value).FirstOrDefault()
                    ?? before[i]
            ),
        ];
    }

    private static string Location(ChangePlan plan, ChangeKind kind, Row row, bool visible)
    {
        using var address = new Utf8Buffer(128);
        return (visible || kind == ChangeKind.Deleted) && plan.Then?.TryWrite(row, address) == true
            ? address.ToString()
            : plan.Otherwise.Address;
    }

    private static string Text(ChangePlan plan, Row row)
    {
        using var text = new Utf8Buffer(64);
        plan.Label.Write(row, text);
        return text.ToString();
    }

    private static string? Id(ChangePlan plan, Row row)
    {
        using var text = new Utf8Buffer(64);
        using var address = new Utf8Buffer(64);
        if (plan.Id is not { } id || !id.TryWrite(row, address))
            return null;
        for (var i = 0; i < id.Fillers.Count; i++)
        {
            if (i > 0)
                text.Append((byte)'/');
            id.TryWriteId(row, i, text);
        }

        return text.ToString();
    }

    private static string KeyJson(ChangePlan plan, IReadOnlyList<TypedValue> key)
    {
        using var bytes = new MemoryStream();
        using (var json = new Utf8JsonWriter(bytes))
        {
            json.WriteStartObject();
            for (var i = 0; i < key.Count; i++)
            {
                json.WritePropertyName(plan.Key[i].Field.Name);
                StoredValue.Write(json, key[i]);
            }

            json.WriteEndObject();
        }

        return Encoding.UTF8.GetString(bytes.ToArray());
    }

    /// <summary>The fields that differ; for a new or deleted record, all fields.</summary>
    private static List<FieldChange> Fields(ChangePlan plan, IReadOnlyList<TypedValue>? before, IReadOnlyList<TypedValue>? after)
    {
        var fields = new List<FieldChange>();
        for (var i = 0; i < plan.Columns.Count; i++)
        {
            var (was, now) = (before?[i] ?? TypedValue.Empty.Value, after?[i] ?? TypedValue.Empty.Value);
            if (StoredValue.AreSame(was, now))
                continue;
            var field = plan.Columns[i].Field;
            fields.Add(
                field.Secret
                    ? new FieldChange(field.Name, TypedValue.Empty.Value, TypedValue.Empty.Value, true)
                    : new FieldChange(field.Name, was, now, false)
            );
        }

        return fields;
    }

    private static List<KeyEvent> Events(ChangePlan plan, Row? before, Row? after)
    {
        var events = new List<KeyEvent>();
        foreach (var scope in plan.Scopes)
        {
            var (was, now) = (
                before is { } old ? KeyHistory.KeyOf(scope, old) : null,
                after is { } changed ? KeyHistory.KeyOf(scope, changed) : null
            );
            if (was == now)
                continue;
            if (before is null)
                events.Add(new KeyEvent(scope.Name, now!, ChangeKind.Added, null));
            else if (was is not null)
                events.Add(new KeyEvent(scope.Name, was, after is null ? ChangeKind.Deleted : ChangeKind.Changed, now));
        }

        return events;
    }
}
