using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>Compiles how a field is shown.</summary>
internal sealed class FieldStyles(Conventions conventions, string folder, FindingList findings)
{
    private static readonly Dictionary<string, FieldForm> Forms = new()
    {
        ["text"] = FieldForm.Plain,
        ["long_text"] = FieldForm.Long,
        ["markdown"] = FieldForm.Markdown,
        ["json"] = FieldForm.Json,
        ["email"] = FieldForm.Mail,
        ["web"] = FieldForm.Web,
        ["image"] = FieldForm.Picture,
        ["video"] = FieldForm.Video,
        ["audio"] = FieldForm.Audio,
        ["file"] = FieldForm.File,
        ["embed"] = FieldForm.Embed,
        ["epoch"] = FieldForm.Epoch,
    };

    public ValueStyle Of(FieldDefinition field, FieldType type)
    {
        var form = FieldForm.Plain;
        if (field.As is { } word && !Forms.TryGetValue(word.Value, out form))
            findings.AddUnknown(FindingCodes.UnknownWord, word, "way to show a field called", Forms.Keys);
        if (form == FieldForm.Epoch && type is not (FieldType.Integer or FieldType.Any))
            findings.Add(
                FindingCodes.ValueOfOtherType,
                field.As!.At,
                $"{field.Name} is {type.Word()}, and epoch is for whole seconds since 1970.",
                "Show it as it is: remove “as”.",
                found: type.Word(),
                expected: "an integer field"
            );
        else if (form is not (FieldForm.Plain or FieldForm.Epoch) && type is not (FieldType.Text or FieldType.Any))
            findings.Add(
                FindingCodes.ValueOfOtherType,
                field.As!.At,
                $"{field.Name} is {type.Word()} and cannot be shown as {field.As}.",
                "Show it as it is: remove “as”.",
                found: type.Word(),
                expected: "a text field"
            );
        if (field.Decimals is not null && type is not (FieldType.Integer or FieldType.Real or FieldType.Decimal or FieldType.Any))
            findings.Add(
                FindingCodes.ValueOfOtherType,
                field.Name.At,
                $"{field.Name} is {type.Word()} and has no decimals.",
                "Remove “decimals”.",
                found: type.Word(),
                expected: "a number"
            );
        foreach (var choice in field.Choices.Where(choice => TypedValues.Read(choice.Value.Value, type) is null))
            findings.Add(
                FindingCodes.ValueOfOtherType,
                choice.Value.At,
                $"“{choice.Value}” is not a value of {field.Name}, which is {type.Word()}.",
                "Write a value of the field's type.",
                found: choice.Value.Value,
                expected: TypedValues.Expected(type)
            );
        return new ValueStyle(
            conventions,
            form,
            field.Unit?.Value,
            field.Decimals,
            field.Choices.ToDictionary(choice => choice.Value.Value, choice => choice.Label.Value),
            Files(field, form)
        )
        {
            Player = Player(field, form),
        };
    }

    private PlayerAddress? Player(FieldDefinition field, FieldForm form)
    {
        if (form != FieldForm.Embed)
        {
            if (field.Player is { } stray)
                findings.Add(
                    FindingCodes.WrongShape,
                    stray.At,
                    $"{field.Name} is not shown by a player.",
                    "Add as: embed, or remove “player”.",
                    found: stray.Value
                );
            return null;
        }

        var player = field.Player is { } written ? PlayerAddress.Read(written.Value) : null;
        if (player is null)
            findings.Add(
                FindingCodes.WrongShape,
                (field.Player ?? field.As!).At,
                field.Player is { } wrong
                    ? $"“{wrong}” is not the address of a player."
                    : $"The app file does not say which player shows {field.Name}.",
                "Write scheme, host, and {value} where the field's value stands: player: \"https://player.example/show/{value}\"",
                found: field.Player?.Value,
                expected: "an address with {value} once, behind its host"
            );
        return player;
    }

    private FilePlace? Files(FieldDefinition field, FieldForm form)
    {
        if (!form.NamesFile())
        {
            if ((field.Under ?? field.Base) is { } stray)
                findings.Add(
                    FindingCodes.WrongShape,
                    stray.At,
                    $"{field.Name} names no files, so it has no place for them.",
                    "Add as: image, video, audio or file; or remove the place.",
                    found: stray.Value
                );
            return null;
        }

        if (field is { Under: not null, Base: not null })
            findings.Add(
                FindingCodes.WrongShape,
                field.Base.At,
                $"The app file names two places for the files of {field.Name}.",
                "Keep one of under and base.",
                expected: "under or base"
            );
        return field.Under is { } under ? Folder(under)
            : field.Base is { } origin ? Address(origin)
            : new FilePlace(null, null);
    }

    private FilePlace Folder(Written under)
    {
        var path = Path.GetFullPath(under.Value, folder);
        if (!Directory.Exists(path))
            findings.Add(
                FindingCodes.FilesAway,
                under.At,
                $"There is no folder “{under}” beside the app file.",
                "Make it, or write the folder the files are in.",
                found: under.Value,
                expected: "a folder, relative to the app file's"
            );
        return new FilePlace(path, null);
    }

    private FilePlace? Address(Written origin)
    {
        if (
            Uri.TryCreate(origin.Value.TrimEnd('/') + "/", UriKind.Absolute, out var uri)
            && uri.Scheme is "http" or "https"
            && uri.UserInfo.Length == 0
            && uri.Query.Length == 0
        )
            return new FilePlace(null, uri);
        findings.Add(
            FindingCodes.UnknownWord,
            origin.At,
            $"“{origin}” is not an address that files can be under.",
            "Write scheme, host and path.",
            found: origin.Value,
            expected: "such as https://pictures.example/bridges/"
        );
        return null;
    }
}
