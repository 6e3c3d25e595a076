namespace Jexa.Core.Proof;

/// <summary>What a link of one row is worth.</summary>
internal enum LinkVerdict
{
    /// <summary>The row has no link, as the app file says.</summary>
    None,

    /// <summary>It leads to its page, which reads the same values from it. Its record may still be looked for.</summary>
    Fine,

    /// <summary>A value that it needs is empty.</summary>
    Empty,

    /// <summary>No address can hold its values.</summary>
    Unwritable,

    /// <summary>Another page takes its address, or its page reads other values from it.</summary>
    Astray,

    /// <summary>It leads to no record.</summary>
    Lost,

    /// <summary>It leads to a record that may not be seen.</summary>
    Hidden,

    /// <summary>It leads to several records.</summary>
    Ambiguous,
}
