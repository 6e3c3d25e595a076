namespace Jexa.Sources.Sql;

/// <summary>What a connection is used for.</summary>
internal enum ServerUse
{
    Reading,

    /// <summary>Reading where the app file says that a copy is.</summary>
    ReadingReplica,
    Changing,
}
