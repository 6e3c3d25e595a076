using Jexa.Service.Hosting;

namespace Jexa.Service.Workshop;

/// <summary>
/// The app file as it is being changed, with the Markdown files that were changed with it. Nothing of it is served or saved
/// before its author saves. A record: each change makes another one.
/// </summary>
/// <param name="Base">The app file as it was when the working copy was begun; null if there was none.</param>
/// <param name="Text">The app file as it is now.</param>
/// <param name="BaseTexts">The Markdown files that were changed, as they were, by their names in the app file.</param>
/// <param name="Texts">The same files as they are now.</param>
/// <param name="Steps">All steps, those taken back at the end.</param>
/// <param name="Done">How many steps are done.</param>
public sealed record WorkingCopy(
    string? Base,
    string Text,
    IReadOnlyDictionary<string, string> BaseTexts,
    IReadOnlyDictionary<string, string> Texts,
    IReadOnlyList<WorkingStep> Steps,
    int Done
)
{
    /// <summary>Older steps are forgotten.</summary>
    private const int MostSteps = 500;

    private static readonly TimeSpan TypingPause = TimeSpan.FromSeconds(1);
    private static readonly Dictionary<string, string> None = [];

    /// <summary>A working copy without changes.</summary>
    public static WorkingCopy Of(string? text) => new(text, text ?? "", None, None, [], 0);

    /// <summary>Whether it differs from what it was begun from.</summary>
    public bool IsChanged => Text != (Base ?? "") || Texts.Any(text => BaseTexts[text.Key] != text.Value);

    public string Version => AppFileDisk.VersionOf(Text);

    /// <summary>The working copy after a step.</summary>
    /// <param name="texts">Markdown files that the step changes: their present and their new text.</param>
    public WorkingCopy With(
        string label,
        DateTimeOffset at,
        string text,
        IReadOnlyList<(string Name, string Before, string After)> texts
    )
    {
        var splices = texts.Select(one => TextSplice.Between(one.Name, one.Before, one.After)).ToList();
        if (text != Text)
            splices.Add(TextSplice.Between("", Text, text));
        if (splices.Count == 0)
            return this;
        var (baseTexts, now) = (new Dictionary<string, string>(BaseTexts), new Dictionary<string, string>(Texts));
        foreach (var (name, before, after) in texts)
        {
            baseTexts.TryAdd(name, before);
            now[name] = after;
        }

        var steps = Steps.Take(Done).ToList();
        if (steps is [.., { } last] && last.Label == label && at - last.At < TypingPause)
            steps[^1] = last with { At = at, Splices = [.. last.Splices, .. splices] };
        else
            steps.Add(new WorkingStep(label, at, splices));
        steps = [.. steps.TakeLast(MostSteps)];
        return this with { Text = text, BaseTexts = baseTexts, Texts = now, Steps = steps, Done = steps.Count };
    }

    /// <summary>The working copy before its last step.</summary>
    public WorkingCopy Undone() =>
        Done == 0
            ? this
            : Applied(Steps[Done - 1].Splices.Reverse(), (splice, text) => splice.Undo(text)) with
            {
                Done = Done - 1,
            };

    /// <summary>The working copy with the step that was taken back last.</summary>
    public WorkingCopy Redone() =>
        Done == Steps.Count ? this : Applied(Steps[Done].Splices, (splice, text) => splice.Do(text)) with { Done = Done + 1 };

    private WorkingCopy Applied(IEnumerable<TextSplice> splices, Func<TextSplice, string, string> apply)
    {
        var (text, texts) = (Text, new Dictionary<string, string>(Texts));
        foreach (var splice in splices)
            if (splice.File.Length == 0)
                text = apply(splice, text);
            else
                texts[splice.File] = apply(splice, texts[splice.File]);
        return this with { Text = text, Texts = texts };
    }
}
