using System.Text;
using Jexa.Core.Visits;

namespace Jexa.Service.Clients;

/// <summary>
/// The parts of the clients' runtime that name outcomes, made from the table of outcomes. A text of Runtime/ has a line such as
/// <c>//{failure cases}</c> in their places.
/// </summary>
internal static class OutcomeCode
{
    private static readonly IReadOnlyList<OutcomeKind> Failures = Told(false);
    private static readonly IReadOnlyList<OutcomeKind> Refusals = Told(true);

    private static readonly Dictionary<string, string> Parts = new()
    {
        ["//{failure types}"] = Types(Failures),
        ["//{refusal types}"] = Types(Refusals),
        ["//{failure cases}"] = Cases(Failures),
        ["//{refusal cases}"] = Cases(Refusals),
        ["//{failure records}"] = Records(Failures),
        ["//{failure arms}"] = string.Concat(Failures.Select(FailureArm)).TrimEnd(),
        ["//{refusal arms}"] = string.Concat(Refusals.Select(RefusalArm)).TrimEnd(),
        ["//{refusal records}"] = Records([.. Refusals.Where(HasOwnRecord)]),
    };

    /// <summary>A text of Runtime/ with all parts in their places.</summary>
    public static string Filled(string runtime)
    {
        foreach (var (mark, code) in Parts)
            runtime = runtime.Replace(mark, code);
        return runtime;
    }

    private static List<OutcomeKind> Told(bool ofChanges) =>
        [
            .. OutcomeKind.All.Where(kind =>
                kind.IsTold && kind.PublicWord == kind.Word && kind.Tells.HasFlag(OutcomeParts.Change) == ofChanges
            ),
        ];

    /// <summary>The members of a union type in TypeScript: one for outcomes that tell the same.</summary>
    private static string Types(IReadOnlyList<OutcomeKind> kinds)
    {
        var text = new StringBuilder();
        foreach (var alike in kinds.GroupBy(kind => kind.Tells))
        {
            var means = alike
                .Where(kind => kind.Means is not null)
                .Select(kind => alike.Count() == 1 ? kind.Means : $"{kind.Word}: {kind.Means}")
                .ToList();
            if (means.Count > 0)
                text.Append($"/** {string.Join(' ', means)} */\n  ");
            text.Append($"| {{ readonly outcome: {string.Join(" | ", alike.Select(kind => $"\"{kind.Word}\""))}");
            if (alike.Key.HasFlag(OutcomeParts.Parameter))
                text.Append("; readonly parameter: string | null");
            text.Append("; readonly detail: string");
            if (alike.Key.HasFlag(OutcomeParts.Links))
                text.Append("; readonly links: readonly Link[]");
            if (alike.Key.HasFlag(OutcomeParts.After))
                text.Append("; readonly after: number");
            if (alike.Key.HasFlag(OutcomeParts.Faults))
                text.Append("; readonly faults: readonly Fault[]");
            text.Append(" }\n  ");
        }

        return text.ToString().TrimEnd();
    }

    /// <summary>The cases of a switch in TypeScript over <c>body["outcome"]</c>.</summary>
    private static string Cases(IReadOnlyList<OutcomeKind> kinds)
    {
        var text = new StringBuilder();
        foreach (var alike in kinds.GroupBy(kind => kind.Tells))
        {
            foreach (var kind in alike)
                text.Append($"case \"{kind.Word}\":\n    ");
            text.Append("  return { outcome: body[\"outcome\"]");
            if (alike.Key.HasFlag(OutcomeParts.Parameter))
                text.Append(", parameter: typeof body[\"parameter\"] === \"string\" ? body[\"parameter\"] : null");
            text.Append(", detail");
            if (alike.Key.HasFlag(OutcomeParts.Links))
                text.Append(", links");
            if (alike.Key.HasFlag(OutcomeParts.After))
                text.Append(", after: answer.after");
            if (alike.Key.HasFlag(OutcomeParts.Faults))
                text.Append(", faults");
            text.Append(" };\n    ");
        }

        return text.ToString().TrimEnd();
    }

    /// <summary>The records of a closed hierarchy in C#.</summary>
    private static string Records(IReadOnlyList<OutcomeKind> kinds)
    {
        var text = new StringBuilder();
        foreach (var kind in kinds)
        {
            if (kind.Means is { } means)
                text.Append($"/// <summary>{means}</summary>\n    ");
            var (before, after) = (
                kind.Tells.HasFlag(OutcomeParts.Parameter) ? "string? Parameter, " : "",
                kind.Tells.HasFlag(OutcomeParts.After) ? ", TimeSpan After"
                : kind.Tells.HasFlag(OutcomeParts.Faults) ? ", IReadOnlyList<Fault> Faults"
                : ""
            );
            var parent = kind.Tells.HasFlag(OutcomeParts.Change) ? "Saved<T>" : "Failure(Detail)";
            text.Append($"public sealed record {NameOf(kind)}({before}string Detail{after}) : {parent};\n\n    ");
        }

        return text.ToString().TrimEnd();
    }

    private static string FailureArm(OutcomeKind kind)
    {
        var before = kind.Tells.HasFlag(OutcomeParts.Parameter) ? "answer.Body.TextOr(\"parameter\"), " : "";
        var after = kind.Tells.HasFlag(OutcomeParts.After) ? ", answer.After" : "";
        return $"\"{kind.Word}\" => new Failure.{NameOf(kind)}({before}detail{after}),\n            ";
    }

    private static string RefusalArm(OutcomeKind kind)
    {
        var faults = kind.Tells.HasFlag(OutcomeParts.Faults) ? ", faults" : "";
        var name = HasOwnRecord(kind) ? NameOf(kind) : "Refused";
        return $"\"{kind.Word}\" => new Saved<T>.{name}(detail{faults}),\n            ";
    }

    /// <summary>Whether a C# program must tell it from a refusal.</summary>
    private static bool HasOwnRecord(OutcomeKind kind) => kind == OutcomeKind.Invalid || kind == OutcomeKind.Conflict;

    private static string NameOf(OutcomeKind kind) => ClientNames.Pascal(kind.Word);
}
