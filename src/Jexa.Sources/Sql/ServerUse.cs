namespace Jexa.Sources.Sql;

/// <summary>The purpose of a connection.</summary>
internal enum ServerUse
{
    Reading,

    /// <summary>Reading from the replica in the app file.</summary>
    ReadingReplica,
    Changing,
}
