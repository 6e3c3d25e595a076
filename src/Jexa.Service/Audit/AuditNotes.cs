using Jexa.Core.Audit;
using Jexa.Core.Definitions;
using Jexa.Service.Proof;

namespace Jexa.Service.Audit;

/// <summary>What an audit has found, how much it has looked at, and what it has not.</summary>
internal sealed class AuditNotes
{
    private readonly List<AuditFault> _faults = [];
    private readonly List<string> _notSeen = [];
    private readonly Dictionary<string, int> _seen = [];

    public IReadOnlyList<AuditFault> Faults => _faults;

    /// <summary>What was not looked at, and why.</summary>
    public IReadOnlyList<string> NotSeen => _notSeen;

    /// <summary>How much was looked at.</summary>
    public IReadOnlyDictionary<string, int> Seen => _seen;

    public void Count(string what) => _seen[what] = _seen.GetValueOrDefault(what) + 1;

    public void Skip(string why) => _notSeen.Add(why);

    public void Tell(AuditFault fault) => _faults.Add(fault);

    /// <param name="about">What tells it from others of its code: the pattern of the addresses.</param>
    /// <param name="kind">The kind of row or ID that it was met with.</param>
    public void Tell(FindingCode code, string about, string kind, Uri address, string says, bool isCertain = true) =>
        _faults.Add(new AuditFault(code, about, kind, address, says, isCertain));

    /// <summary>Tells of a link that leads to nothing.</summary>
    public void Dead(LinkGroup group, string kind, AuditAnswer answer) =>
        Tell(ProofCodes.AuditDeadLink, group.Pattern, kind, answer.Asked, answer.Why);

    /// <summary>Takes faults back that turned out to be something else.</summary>
    public List<AuditFault> Take(Predicate<AuditFault> which)
    {
        var taken = _faults.FindAll(which);
        _faults.RemoveAll(which);
        return taken;
    }

    /// <summary>Tells of what an answer shows of the inside.</summary>
    public void Inside(LinkGroup group, string kind, AuditAnswer answer)
    {
        if (RecordPageReading.InsideOf(answer.Body) is { } inside)
            Tell(ProofCodes.AuditInsideShown, group.Pattern, kind, answer.Asked, $"shows “{Cut(inside)}”");
    }

    /// <summary>The first things that a row says.</summary>
    public static string Shown(ListRow row) => string.Join(", ", row.Facts.Take(3).Select(fact => $"“{Cut(fact.Shown)}”"));

    public static string Cut(string text) => ReportWords.Cut(text);
}
