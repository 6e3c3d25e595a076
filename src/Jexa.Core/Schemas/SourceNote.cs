namespace Jexa.Core.Schemas;

/// <summary>Something a source says of itself: a whole sentence with its place.</summary>
/// <param name="IsFault">Whether something cannot be used for it.</param>
/// <param name="Remedy">What to do, as a sentence.</param>
public sealed record SourceNote(string Sentence, string Remedy, bool IsFault);
