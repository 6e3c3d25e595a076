using System.Text.Json;
using Jexa.Core.Edits;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>
/// Reverses one change, if its record is still as that change left it. This is a change too, and can be reversed.
/// </summary>
public sealed class Undo
{
    /// <summary>The name of the page in the log for a change that reverses another one.</summary>
    public const string Page = "(undo)";

    private readonly QueryRunner _queries;
    private readonly SaveSteps _saving;
    private readonly EditServices _editing;

    /// <summary>Makes the undo of changes; <paramref name="editing"/> holds the change log that it reads.</summary>
    public Undo(TimeProvider clock, EditServices editing)
    {
        _editing = editing;
        _queries = new QueryRunner(clock);
        _saving = new SaveSteps(_queries, editing, new ChangeMaker(_queries, editing.Log));
    }

    /// <exception cref="SourceException">The source, or the log, is away or too slow. Nothing is changed.</exception>
    public async Task<UndoResult> RunAsync(Site site, LoggedChange change, VisitTrace trace, CancellationToken cancellation)
    {
        var plan = site.Changes.GetValueOrDefault(change.What.Record);
        if (Obstacle(change, plan) is { } obstacle)
            return No(obstacle);
        try
        {
            return await TryAsync(plan!, change, trace, cancellation);
        }
        catch (RefusedException refused)
        {
            trace.Why = refused.Message;
            return No(
                refused.Reason switch
                {
                    RefusalReason.Reference =>
                        "The source forbids it: records refer to this one, or one that it refers to is gone.",
                    RefusalReason.Unique =>
                        $"The source forbids it: another record has the same {string.Join(" and ", refused.Columns)}.",
                    RefusalReason.Own => $"The source forbids it: {refused.Words}",
                    _ => "A rule of the source forbids it.",
                }
            );
        }
    }

    /// <summary>Why a change cannot be taken back, as far as log and site tell. Null if it can.</summary>
    private static string? Obstacle(LoggedChange change, ChangePlan? plan)
    {
        if (change.State != ChangeState.Made)
            return change.State == ChangeState.Intended ? "It is not made yet." : "It is not known whether it was made.";
        if (change.UndoneBy is { } undone)
            return $"Change {undone} took it back already.";
        if (plan is null)
            return $"No page of the app changes the record “{change.What.Record}” any more.";
        if (change.What.Fields.FirstOrDefault(field => field.IsSecret) is { } secret)
            return $"The field {secret.Field} is secret, so the log does not know what it was.";
        return
            change.What.Fields.FirstOrDefault(field => plan.Columns.All(column => column.Field.Name != field.Field)) is { } lost
            ? $"{plan.Record.Name} has no field {lost.Field} any more."
            : null;
    }

    private async Task<UndoResult> TryAsync(
        ChangePlan plan,
        LoggedChange change,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        using var loans = _queries.Begin();
        await using var session = await plan.Record.Source.BeginWriteAsync(cancellation);
        using var json = JsonDocument.Parse(change.What.Key);
        var key = plan
            .Key.Select(column =>
                json.RootElement.TryGetProperty(column.Field.Name, out var value) ? StoredValue.Read(value) : null
            )
            .ToArray();
        if (Array.Exists(key, part => part is null))
            return No($"{plan.Record.Name} has another key by now.");
        var rows = loans.Lend(plan.Reread.Width);
        await _saving.LockAsync(session, plan.Reread, key!, rows, trace, cancellation);
        var (write, before, why) = Reversed(plan, change, rows, key!);
        if (write is null)
            return No(why!);
        var kind = change.What.Kind switch
        {
            ChangeKind.Added => ChangeKind.Deleted,
            ChangeKind.Deleted => ChangeKind.Added,
            _ => ChangeKind.Changed,
        };
        var token = FormContract.NewToken();
        var made = await _saving.Maker.MakeAsync(
            session,
            new WantedChange(plan, Page, kind, write, before, token, token, change.Number),
            trace,
            loans,
            cancellation
        );
        return made is null ? No("The change log did not take it.") : new UndoResult(_editing.Log.Find(token), null);
    }

    private static UndoResult No(string why) => new(null, why);

    private (RecordWrite? Write, TypedValue[]? Before, string? Why) Reversed(
        ChangePlan plan,
        LoggedChange change,
        RowBlock rows,
        TypedValue[] key
    )
    {
        var table = plan.Record.Table.Name;
        var one = plan.Record.One;
        if (change.What.Kind == ChangeKind.Deleted)
        {
            if (rows.Count > 0)
                return (null, null, $"There is {("aeiou".Contains(one[0]) ? "an " : "a ")}{one} of this key again.");
            var values = change
                .What.Fields.Where(field =>
                    ColumnOf(plan, field) is { Column.Automatic: false }
                    || plan.Key.Any(column => column.Field.Name == field.Field)
                )
                .Select(field => new ColumnValue(ColumnOf(plan, field).Column.Name, field.Before));
            return (
                new RecordWrite.Insert(table, [.. values], [.. plan.Key.Select(column => column.Field.Column.Name)]),
                null,
                null
            );
        }

        if (rows.Count != 1)
            return (null, null, $"The {one} is not there any more.");
        var now = plan.Columns.Select(column => StoredValue.Of(rows[0], column.Ordinal)).ToArray();
        var kept = plan.Kept.Select(field => field.Field.Name).ToHashSet();
        for (var i = 0; i < now.Length; i++)
        {
            // Fields that Jexa fills change with every change, even one that was reversed since.
            if (change.What.Kind == ChangeKind.Changed && kept.Contains(plan.Columns[i].Field.Name))
                continue;
            var said = change.What.Fields.FirstOrDefault(field => field.Field == plan.Columns[i].Field.Name);
            if (said is null && change.What.Kind != ChangeKind.Added)
                continue;
            if (!StoredValue.AreSame(said?.After ?? TypedValue.Empty.Value, now[i]))
                return (null, null, $"The {one} is not as that change left it: {plan.Columns[i].Field.Name} was changed since.");
        }

        var where = plan.Key.Zip(key, (column, value) => new ColumnValue(column.Field.Column.Name, value)).ToList();
        if (change.What.Kind == ChangeKind.Added)
            return (new RecordWrite.Delete(table, where), now, null);
        var back = change
            .What.Fields.Where(field => !kept.Contains(field.Field) && !ColumnOf(plan, field).Column.Automatic)
            .Select(field => new ColumnValue(ColumnOf(plan, field).Column.Name, field.Before));
        return (new RecordWrite.Update(table, where, [.. back, .. _saving.Kept(plan, now)]), now, null);
    }

    private static SiteField ColumnOf(ChangePlan plan, FieldChange field) =>
        plan.Columns.First(column => column.Field.Name == field.Field).Field;
}
