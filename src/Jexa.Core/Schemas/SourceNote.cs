namespace Jexa.Core.Schemas;

/// <summary>A message of a source about itself: a sentence and the place it is about.</summary>
/// <param name="IsFault">Whether something cannot be used because of it.</param>
/// <param name="Remedy">What to do, as a sentence.</param>
public sealed record SourceNote(string Sentence, string Remedy, bool IsFault);
