using System.Globalization;
using System.Text.Json;
using Jexa.Core.Edits;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Json;

/// <summary>Writes pages that change records as JSON: the fields, and the faults of what was sent.</summary>
internal static class JsonFormWriter
{
    /// <summary>The record's own fields, by which it is changed: no labels, nothing of other records.</summary>
    public static void WriteForm(FormView view, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteString("outcome"u8, view.Outcome);
        json.WriteString("page"u8, view.Page);
        if (view.Row is { } row)
        {
            JsonValues.WriteIdentity(view.Own!, row, json, scratch);
            JsonValues.WriteFields(view.Stored, row, json, scratch);
            WriteLinks(view, json);
            return;
        }

        json.WriteStartObject("fields"u8);
        foreach (var input in view.Inputs)
        {
            if (input.Text.Length == 0)
                json.WriteNull(input.Name);
            else if (
                input.Field.Type == FieldType.Timestamp
                && FieldReader.Read(input.Field, input.Text).Value is TypedValue.Moment moment
            )
                json.WriteString(input.Name, moment.Value.ToString(JsonValues.MomentForm, CultureInfo.InvariantCulture));
            else if (input.Field.IsEpoch && FieldReader.Read(input.Field, input.Text).Value is TypedValue.Whole seconds)
                json.WriteNumber(input.Name, seconds.Value);
            else if (input.Field.Type == FieldType.Boolean)
                json.WriteBoolean(input.Name, input.Text == "true");
            else if (
                input.Field.Type is FieldType.Integer or FieldType.Real
                && double.TryParse(input.Text, CultureInfo.InvariantCulture, out _)
            )
            {
                json.WritePropertyName(input.Name);
                json.WriteRawValue(input.Text);
            }
            else
                json.WriteString(input.Name, input.Text);
        }

        json.WriteEndObject();
        WriteLinks(view, json);
    }

    /// <summary>The links of the form's page. They depend only on the record's own key.</summary>
    private static void WriteLinks(FormView view, Utf8JsonWriter json)
    {
        json.WriteStartArray("links"u8);
        foreach (
            var link in new[] { view.Cancel, view.Back }.OfType<PlainLink>().Concat(view.Links).DistinctBy(link => link.Address)
        )
            JsonPageWriter.WriteLink(link, json);
        json.WriteEndArray();
    }

    public static void WriteDelete(DeleteView view, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteString("outcome"u8, view.Outcome);
        json.WriteString("page"u8, view.Page);
        JsonValues.WriteIdentity(view.Shape.Own, view.Record, json, scratch);
        JsonValues.WriteFields(view.Stored, view.Record, json, scratch);
    }

    /// <summary>The faults of what was sent, each with its place (RFC 6901).</summary>
    public static void WriteFaults(FormView view, string instance, Utf8JsonWriter json)
    {
        var detail = view.Notice
            ?? (
                view.Strays.Count + view.Faults.Count == 1
                    ? "What was sent cannot be saved: one thing is wrong with it. Nothing was changed."
                    : $"What was sent cannot be saved: {view.Strays.Count + view.Faults.Count} things are wrong with "
                        + "it. Nothing was changed."
            );
        JsonPageWriter.WriteProblem(
            new MessageView(view.Frame, view.Page, view.Outcome, view.Status, "", [detail], null, null, []),
            instance,
            json
        );
        json.WriteStartArray("errors"u8);
        foreach (var (pointer, text) in view.Strays)
            Write($"#{pointer}", text);
        foreach (var fault in view.Faults)
            Write(fault.Field is { } field ? $"#/fields/{field.Name}" : "#", fault.Text);
        json.WriteEndArray();

        void Write(string pointer, string text)
        {
            json.WriteStartObject();
            json.WriteString("pointer"u8, pointer);
            json.WriteString("detail"u8, text);
            json.WriteEndObject();
        }
    }
}
