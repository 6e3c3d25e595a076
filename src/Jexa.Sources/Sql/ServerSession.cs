using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Sql;

/// <summary>One transaction on a connection that may change things.</summary>
internal sealed class ServerSession(ServerSource source, ServerPool.Lease lease) : IWriteSession
{
    private bool _ended;
    private bool _claims;

    private SqlServer Server => source.Server;

    public bool KeepsNotes => Server.Settings.Writing == SourceWriting.Noted;

    public async ValueTask ClaimAsync(string token, CancellationToken cancellation)
    {
        _claims = true;
        await Server.ClaimAsync(lease.Connection, token, cancellation);
    }

    public ValueTask LockAsync(
        IPreparedQuery query,
        IReadOnlyList<TypedValue> arguments,
        RowBlock into,
        CancellationToken cancellation
    ) => ((ServerQuery)query).RunAsync(lease.Connection, arguments, into, locks: true, cancellation);

    public ValueTask RunAsync(
        IPreparedQuery query,
        IReadOnlyList<TypedValue> arguments,
        RowBlock into,
        CancellationToken cancellation
    ) => ((ServerQuery)query).RunAsync(lease.Connection, arguments, into, locks: false, cancellation);

    public async ValueTask<WriteResult> WriteAsync(RecordWrite write, CancellationToken cancellation)
    {
        var statement = Server.Text(source.Native, null).Write(write);
        var values = SqlText.ValuesOf(write);
        var (changed, row) = await lease.Connection.ExecuteAsync(
            statement.Text,
            [.. statement.Arguments.Select(i => values[i].Value)],
            cancellation
        );
        return new WriteResult(changed, [.. (row ?? []).Select(Stored)]);
    }

    public string Shown(RecordWrite write) => Server.Text(source.Native, []).Write(write).Text + ";";

    public async ValueTask<bool> NoteAsync(string token, string? key, CancellationToken cancellation)
    {
        var (changed, _) = await lease.Connection.ExecuteAsync(
            Server.AddNote,
            [new TypedValue.Text(token), key is null ? TypedValue.Empty.Value : new TypedValue.Text(key)],
            cancellation
        );
        return changed == 1;
    }

    public async ValueTask<(bool Noted, string? Key)> FindNoteAsync(string token, CancellationToken cancellation)
    {
        var (_, row) = await lease.Connection.ExecuteAsync(
            $"SELECT {Server.Quote("key")} FROM jexa_commit WHERE token = {Server.Placeholder(0)}",
            [new TypedValue.Text(token)],
            cancellation
        );
        return (row is not null, row?[0] as string);
    }

    public async ValueTask<string?> NextStrayNoteAsync(string after, CancellationToken cancellation)
    {
        var (_, row) = await lease.Connection.ExecuteAsync(
            $"SELECT min(token) FROM jexa_commit WHERE {Server.Quote("key")} IS NULL AND token > {Server.Placeholder(0)}",
            [new TypedValue.Text(after)],
            cancellation
        );
        return row?[0] as string;
    }

    public async ValueTask ForgetNotesAsync(IReadOnlyCollection<string> tokens, CancellationToken cancellation)
    {
        foreach (var token in tokens)
            await lease.Connection.ExecuteAsync(
                $"DELETE FROM jexa_commit WHERE token = {Server.Placeholder(0)}",
                [new TypedValue.Text(token)],
                cancellation
            );
    }

    public async ValueTask CommitAsync()
    {
        await lease.Connection.ExecuteAsync("COMMIT", [], CancellationToken.None);
        _ended = true;
        await EndAsync();
    }

    public async ValueTask DisposeAsync()
    {
        if (_ended)
            return;
        _ended = true;
        try
        {
            if (!lease.Connection.IsBroken)
                await lease.Connection.ExecuteAsync("ROLLBACK", [], CancellationToken.None);
        }
        catch (SourceException)
        {
            // If even a rollback fails, the connection is not used again. Closing it rolls back.
            lease.Connection.GiveUp();
        }
        finally
        {
            await EndAsync();
        }
    }

    private async ValueTask EndAsync()
    {
        try
        {
            if (_claims && !lease.Connection.IsBroken)
                await Server.ReleaseAsync(lease.Connection);
        }
        catch (SourceException)
        {
            lease.Connection.GiveUp();
        }
        finally
        {
            await lease.DisposeAsync();
        }
    }

    private static TypedValue Stored(object? value) =>
        value switch
        {
            null => TypedValue.Empty.Value,
            string text => new TypedValue.Text(text),
            byte[] bytes => new TypedValue.Bytes(bytes),
            bool truth => new TypedValue.Whole(truth ? 1 : 0),
            double real => new TypedValue.Real(real),
            float real => new TypedValue.Real(real),
            _ => new TypedValue.Whole(Convert.ToInt64(value, System.Globalization.CultureInfo.InvariantCulture)),
        };
}
