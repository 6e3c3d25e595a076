namespace Jexa.Service.Runs;

/// <summary>A proof that is being made.</summary>
/// <param name="Number">The number that its report will have.</param>
/// <param name="Subject">What it is made of: the app file, or an address.</param>
/// <param name="Doing">What it looks at now.</param>
/// <param name="Done">How much it has looked at.</param>
/// <param name="Most">How much there is; null if nobody knows.</param>
/// <param name="Seconds">Since its beginning.</param>
/// <param name="IsStopping">Whether somebody has asked it to stop.</param>
public sealed record ProofProgress(
    int Number,
    string Means,
    string Subject,
    string Doing,
    long Done,
    long? Most,
    double Seconds,
    bool IsStopping
);
