namespace Jexa.Core.Changes;

/// <summary>Why a form's contract cannot be taken.</summary>
internal enum ContractFault
{
    None,

    /// <summary>There is none, or it is not ours.</summary>
    Unknown,

    /// <summary>It is of another page, or of another record.</summary>
    OtherRecord,

    /// <summary>It was made for another browser, or this one sends no cookie.</summary>
    OtherVisitor,
    Expired,
}
