namespace Jexa.Core.Changes;

/// <summary>Why a form's contract is not accepted.</summary>
internal enum ContractFault
{
    None,

    /// <summary>There is none, or this service did not make it.</summary>
    Unknown,

    /// <summary>It is for another page or another record.</summary>
    OtherRecord,

    /// <summary>It was made for another browser, or this browser sends no cookie.</summary>
    OtherVisitor,
    Expired,
}
