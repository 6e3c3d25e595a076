using System.Buffers;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Service.Media;

namespace Jexa.Service.Uploads;

/// <summary>Takes a file that is being sent: to the disk as it arrives, then checked, then named.</summary>
internal static class UploadStore
{
    private const int MostStem = 60;
    private const int ChunkLength = 64 * 1024;

    private const string NoRoom = "This file could not be stored just now: there may be no room for it. Nothing was saved.";

    /// <param name="content">The file's content. It is read to its end in any case.</param>
    /// <param name="sentName">The name the visitor knows it by; untrusted.</param>
    /// <exception cref="IOException">The sender left.</exception>
    public static async Task<SentUpload> TakeAsync(
        FormEntry entry,
        Stream content,
        string sentName,
        CancellationToken cancellation
    )
    {
        var plan = entry.Field.Upload!;
        FileStream? file = null;
        var path = "";
        string? fault = null;
        try
        {
            file = IncomingFiles.Begin(plan.Folder, out path);
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            fault = NoRoom;
        }

        var isWhole = false;
        using var digest = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var chunk = ArrayPool<byte>.Shared.Rent(ChunkLength);
        try
        {
            var length = 0L;
            int read;
            while ((read = await content.ReadAsync(chunk.AsMemory(0, ChunkLength), cancellation)) > 0)
            {
                length += read;
                digest.AppendData(chunk, 0, read);
                if (length > plan.MostBytes)
                    fault ??= $"“{UploadKinds.Cut(sentName)}” is larger than {FileFacts.Size(plan.MostBytes)}.";
                if (fault is null)
                    fault = await WriteAsync(file!, chunk.AsMemory(0, read));
            }

            if (fault is null && length == 0)
                fault = $"“{UploadKinds.Cut(sentName)}” is empty.";
            fault ??= Flush(file!);
            isWhole = fault is null;
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(chunk);
            if (file is not null)
                await file.DisposeAsync();
            if (!isWhole && path.Length > 0)
                IncomingFiles.Remove(path);
        }

        return new SentUpload(entry, path, sentName, Convert.ToHexStringLower(digest.GetHashAndReset()), fault);
    }

    /// <summary>Checks what arrived, and gives it the name that the record will hold.</summary>
    /// <param name="valueOf">What was sent for the other fields of the form.</param>
    public static SentFile Keep(SentUpload upload, Func<string, string?> valueOf)
    {
        var plan = upload.Entry.Field.Upload!;
        var fault = upload.Fault;
        if (fault is null)
        {
            try
            {
                if (UploadKinds.Ending(plan, upload.Path, upload.SentName, out fault) is { } ending)
                {
                    var name = NameFor(upload.Entry, ending, valueOf);
                    IncomingFiles.Keep(plan.Folder, upload.Path, name);
                    return new SentFile(name, upload.Digest, null);
                }
            }
            catch (Exception unkept) when (unkept is IOException or UnauthorizedAccessException)
            {
                fault = NoRoom;
            }

            IncomingFiles.Remove(upload.Path);
        }

        return new SentFile("", upload.Digest, fault);
    }

    private static async Task<string?> WriteAsync(FileStream file, ReadOnlyMemory<byte> part)
    {
        try
        {
            await file.WriteAsync(part);
            return null;
        }
        catch (Exception full) when (full is IOException or UnauthorizedAccessException)
        {
            return NoRoom;
        }
    }

    private static string? Flush(FileStream file)
    {
        try
        {
            file.Flush(flushToDisk: true);
            return null;
        }
        catch (Exception full) when (full is IOException or UnauthorizedAccessException)
        {
            return NoRoom;
        }
    }

    /// <summary>A name that no other file has: 64 bits of it are random.</summary>
    private static string NameFor(FormEntry entry, string ending, Func<string, string?> valueOf)
    {
        var end = $"{Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(8))}.{ending}";
        var room = Math.Min(MostStem, (entry.Field.Rules.MaxLength ?? int.MaxValue) - end.Length - 1);
        var stem = new StringBuilder();
        var pattern = entry.Field.Upload!.Name;
        for (var at = 0; at < pattern.Length; )
        {
            var open = pattern.IndexOf('{', at);
            var close = open < 0 ? -1 : pattern.IndexOf('}', open);
            stem.Append(pattern, at, (close < 0 ? pattern.Length : open) - at);
            if (close >= 0)
                stem.Append(Plain(valueOf(pattern[(open + 1)..close]) ?? ""));
            at = close < 0 ? pattern.Length : close + 1;
        }

        var text = stem.ToString()[..Math.Clamp(room, 0, stem.Length)].Trim('-');
        return text.Length == 0 ? end : $"{text}-{end}";
    }

    /// <summary>Letters, digits and hyphens of a text, without accents.</summary>
    private static string Plain(string text)
    {
        var plain = new StringBuilder();
        foreach (var c in text.Normalize(NormalizationForm.FormD))
            if (char.IsAsciiLetterOrDigit(c))
                plain.Append(c);
            else if (CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark && plain is not [.., '-'])
                plain.Append('-');
        return plain.ToString();
    }
}
