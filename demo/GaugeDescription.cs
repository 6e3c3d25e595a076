using System.Text;

namespace Jexa.Demo;

/// <summary>What the stand-in for the gauges says of itself: OpenAPI 3.1.</summary>
public static class GaugeDescription
{
    public static byte[] Text() =>
        Encoding.UTF8.GetBytes(
            """
            {
              "openapi": "3.1.0",
              "info": { "title": "River gauges", "version": "1" },
              "paths": {
                "/gauges": {
                  "get": {
                    "parameters": [ { "name": "river", "in": "query", "schema": { "type": "string" } } ],
                    "responses": { "200": { "description": "All gauges.", "content": { "application/json": { "schema": { "type": "array", "items": { "$ref": "#/components/schemas/Gauge" } } } } } }
                  }
                },
                "/gauges/{gaugeCode}": {
                  "parameters": [ { "name": "gaugeCode", "in": "path", "required": true, "schema": { "type": "string" } } ],
                  "get": {
                    "responses": {
                      "200": { "description": "One gauge.", "content": { "application/json": { "schema": { "$ref": "#/components/schemas/Gauge" } } } },
                      "404": { "description": "There is no such gauge." }
                    }
                  }
                }
              },
              "components": {
                "schemas": {
                  "Gauge": {
                    "type": "object",
                    "required": [ "code", "river", "place" ],
                    "properties": {
                      "code": { "type": "string" },
                      "number": { "type": "integer", "format": "int64" },
                      "river": { "type": "string" },
                      "place": { "type": "string" },
                      "level_m": { "type": "number" },
                      "rising": { "type": "boolean" },
                      "measured_at": { "type": "string", "format": "date-time" },
                      "note": { "type": [ "string", "null" ] }
                    }
                  }
                }
              }
            }
            """
        );
}
