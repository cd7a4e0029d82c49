// SPDX-License-Identifier: Apache-2.0
#include "lumvet/compose/brief.h"

namespace lumvet {

std::string_view brief_schema() {
  return R"schema({
  "$schema": "https://json-schema.org/draft/2020-12/schema",
  "title": "A brief: a document described as data",
  "type": "object",
  "additionalProperties": false,
  "properties": {
    "title": {"type": "string"},
    "author": {"type": "string"},
    "language": {"type": "string"},
    "paper": {"type": "string", "description": "A4, Letter, 210x297 (millimeters), A5 landscape"},
    "margins": {
      "oneOf": [
        {"type": "number", "minimum": 0},
        {"type": "array", "items": {"type": "number", "minimum": 0}, "minItems": 4, "maxItems": 4}
      ]
    },
    "columns": {"type": "integer", "minimum": 1, "maximum": 12},
    "between_columns": {"type": "number", "minimum": 0},
    "background": {"$ref": "#/$defs/color"},
    "letterhead": {"type": "string"},
    "header": {"$ref": "#/$defs/line"},
    "footer": {"$ref": "#/$defs/line"},
    "first_page_has_header": {"type": "boolean"},
    "heading_font": {"type": "string"},
    "heading_size": {"type": "number", "minimum": 1},
    "heading_color": {"$ref": "#/$defs/color"},
    "tagged": {"type": "boolean"},
    "styles": {"type": "object", "additionalProperties": {"$ref": "#/$defs/style"}},
    "blocks": {"$ref": "#/$defs/blocks"}
  },
  "$defs": {
    "color": {"type": "string", "pattern": "^#([0-9A-Fa-f]{3}|[0-9A-Fa-f]{6})$"},
    "line": {
      "type": "object",
      "additionalProperties": false,
      "properties": {
        "left": {"type": "string"}, "middle": {"type": "string"}, "right": {"type": "string"}
      }
    },
    "style": {
      "type": "object",
      "additionalProperties": false,
      "properties": {
        "based_on": {"type": "string"},
        "font": {"type": "string"},
        "size": {"type": "number", "minimum": 0.1},
        "color": {"$ref": "#/$defs/color"},
        "spacing": {"type": "number"},
        "rise": {"type": "number"},
        "underlined": {"type": "boolean"},
        "struck_out": {"type": "boolean"},
        "language": {"type": "string"},
        "align": {"enum": ["start", "end", "center", "justified", "left", "right"]},
        "line_height": {"type": "number", "minimum": 0.1},
        "first_indent": {"type": "number"},
        "left": {"type": "number", "minimum": 0},
        "right": {"type": "number", "minimum": 0},
        "before": {"type": "number", "minimum": 0},
        "after": {"type": "number", "minimum": 0},
        "divides_words": {"type": "boolean"},
        "runs_down": {"type": "boolean"},
        "keeps_together": {"type": "boolean"},
        "keeps_with_next": {"type": "boolean"}
      }
    },
    "text": {
      "oneOf": [
        {"type": "string"},
        {
          "type": "array",
          "items": {
            "oneOf": [
              {"type": "string"},
              {
                "type": "object",
                "additionalProperties": false,
                "required": ["text"],
                "properties": {
                  "text": {"type": "string"}, "style": {"type": "string"},
                  "link": {"type": "string"}
                }
              },
              {
                "type": "object",
                "additionalProperties": false,
                "required": ["note"],
                "properties": {"note": {"type": "string"}}
              },
              {
                "type": "object",
                "additionalProperties": false,
                "required": ["page_of"],
                "properties": {"page_of": {"type": "string"}, "style": {"type": "string"}}
              }
            ]
          }
        }
      ]
    },
    "cell": {
      "oneOf": [
        {"$ref": "#/$defs/text"},
        {
          "type": "object",
          "additionalProperties": false,
          "required": ["content"],
          "properties": {
            "content": {"$ref": "#/$defs/text"},
            "style": {"type": "string"},
            "columns": {"type": "integer", "minimum": 1},
            "rows": {"type": "integer", "minimum": 1},
            "fill": {"$ref": "#/$defs/color"}
          }
        }
      ]
    },
    "row": {"type": "array", "items": {"$ref": "#/$defs/cell"}},
    "rows": {"type": "array", "items": {"$ref": "#/$defs/row"}},
    "values": {
      "oneOf": [
        {"type": "array", "items": {"type": ["string", "number"]}},
        {
          "type": "object",
          "additionalProperties": false,
          "required": ["each", "value"],
          "properties": {"each": {"type": "string"}, "value": {"type": "string"}}
        }
      ]
    },
    "blocks": {"type": "array", "items": {"$ref": "#/$defs/block"}},
    "block": {
      "oneOf": [
        {
          "type": "object",
          "additionalProperties": false,
          "required": ["heading"],
          "properties": {
            "heading": {"$ref": "#/$defs/text"},
            "level": {"type": "integer", "minimum": 1, "maximum": 6},
            "name": {"type": "string"}
          }
        },
        {
          "type": "object",
          "additionalProperties": false,
          "required": ["paragraph"],
          "properties": {"paragraph": {"$ref": "#/$defs/text"}, "style": {"type": "string"}}
        },
        {
          "type": "object",
          "additionalProperties": false,
          "required": ["list"],
          "properties": {
            "list": {
              "oneOf": [
                {"type": "string"}, {"type": "array", "items": {"$ref": "#/$defs/text"}}
              ]
            },
            "each": {"type": "string"},
            "style": {"type": "string"},
            "numbered": {"type": "boolean"},
            "first": {"type": "integer"},
            "depth": {"type": "integer", "minimum": 0}
          }
        },
        {
          "type": "object",
          "additionalProperties": false,
          "required": ["table"],
          "properties": {
            "table": {
              "type": "object",
              "additionalProperties": false,
              "properties": {
                "columns": {
                  "type": "array",
                  "items": {
                    "oneOf": [
                      {"type": "number", "exclusiveMinimum": 0},
                      {"type": "string", "pattern": "^(content|share( [0-9.]+)?)$"}
                    ]
                  }
                },
                "head": {"$ref": "#/$defs/rows"},
                "rows": {"$ref": "#/$defs/rows"},
                "each": {"type": "string"},
                "row": {"$ref": "#/$defs/row"},
                "style": {"type": "string"},
                "column_styles": {"type": "array", "items": {"type": "string"}},
                "head_fill": {"$ref": "#/$defs/color"},
                "row_fill": {"$ref": "#/$defs/color"},
                "rules": {
                  "type": "object",
                  "additionalProperties": false,
                  "properties": {
                    "around": {"type": "number", "minimum": 0},
                    "between_rows": {"type": "number", "minimum": 0},
                    "between_columns": {"type": "number", "minimum": 0},
                    "below_head": {"type": "number", "minimum": 0},
                    "color": {"$ref": "#/$defs/color"}
                  }
                },
                "parts_rows": {"type": "boolean"}
              }
            }
          }
        },
        {
          "type": "object",
          "additionalProperties": false,
          "required": ["picture"],
          "properties": {
            "picture": {"type": "string"},
            "width": {"type": "number", "minimum": 0},
            "description": {"type": "string"},
            "side": {"enum": ["left", "right"]}
          }
        },
        {
          "type": "object",
          "additionalProperties": false,
          "required": ["chart"],
          "properties": {
            "chart": {
              "type": "object",
              "additionalProperties": false,
              "required": ["series"],
              "properties": {
                "kind": {"enum": ["bars", "stacked_bars", "lines", "pie"]},
                "title": {"type": "string"},
                "value_title": {"type": "string"},
                "labels": {"$ref": "#/$defs/values"},
                "series": {
                  "type": "array",
                  "items": {
                    "type": "object",
                    "additionalProperties": false,
                    "required": ["values"],
                    "properties": {
                      "name": {"type": "string"},
                      "values": {"$ref": "#/$defs/values"},
                      "color": {"$ref": "#/$defs/color"}
                    }
                  }
                },
                "shows_values": {"type": "boolean"},
                "shows_legend": {"type": "boolean"},
                "text_size": {"type": "number", "minimum": 1}
              }
            },
            "height": {"type": "number", "minimum": 1}
          }
        },
        {
          "type": "object",
          "additionalProperties": false,
          "required": ["each", "blocks"],
          "properties": {"each": {"type": "string"}, "blocks": {"$ref": "#/$defs/blocks"}}
        },
        {
          "type": "object",
          "additionalProperties": false,
          "required": ["space"],
          "properties": {"space": {"type": "number", "minimum": 0}}
        },
        {
          "type": "object",
          "additionalProperties": false,
          "required": ["page_break"],
          "properties": {"page_break": {"type": "boolean"}}
        },
        {
          "type": "object",
          "additionalProperties": false,
          "required": ["contents"],
          "properties": {"contents": {"type": "integer", "minimum": 1, "maximum": 6}}
        }
      ]
    }
  }
}
)schema";
}

}  // namespace lumvet
