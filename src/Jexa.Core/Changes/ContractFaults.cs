namespace Jexa.Core.Changes;

/// <summary>The messages for forms that are not accepted.</summary>
internal static class ContractFaults
{
    public static string Said(this ContractFault fault) =>
        fault switch
        {
            ContractFault.Expired =>
                "This form was open for too long. Nothing was saved; what you typed is still here. Please look "
                    + "at it once more and save again.",
            ContractFault.OtherVisitor =>
                "Your browser did not show the cookie that belongs to this form. Nothing was saved; what you "
                    + "typed is still here. Please allow cookies for this site and save again.",
            ContractFault.OtherRecord => "This form belongs to another page.",
            _ => "What was sent is not a form that this page gave out, or it was given out too long ago.",
        };
}
